export { default as SetupPage } from './SetupPage.vue'
