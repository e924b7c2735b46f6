export { default as ComparePage } from './ComparePage.vue'
export { default as LogbookPage } from './LogbookPage.vue'
export { default as LogPage } from './LogPage.vue'
