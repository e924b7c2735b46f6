export { default as HallPage } from './HallPage.vue'
export { default as PracticePage } from './PracticePage.vue'
export { default as SchoolsPage } from './SchoolsPage.vue'
