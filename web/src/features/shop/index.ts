export { default as ShopPage } from './ShopPage.vue'
