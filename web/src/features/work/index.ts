export { default as WorkPage } from './WorkPage.vue'
