export { default as HistoryPage } from './HistoryPage.vue'
