export { default as ReplayPage } from './ReplayPage.vue'
export { default as SetupPage } from './SetupPage.vue'
