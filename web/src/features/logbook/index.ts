export { default as LogbookPage } from './LogbookPage.vue'
export { default as LogPage } from './LogPage.vue'
