export { default as JobPage } from './JobPage.vue'
