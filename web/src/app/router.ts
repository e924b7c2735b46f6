import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'bench', component: () => import('../features/bench').then((m) => m.BenchPage) },
    { path: '/job', name: 'job', component: () => import('../features/job').then((m) => m.JobPage) },
    { path: '/plan', name: 'plan', component: () => import('../features/plan').then((m) => m.PlanPage) },
    {
      path: '/set-up/:id',
      name: 'setup',
      component: () => import('../features/setup').then((m) => m.SetupPage),
    },
    {
      path: '/replay/:id',
      name: 'replay',
      component: () => import('../features/setup').then((m) => m.ReplayPage),
    },
    {
      path: '/logbook',
      name: 'logbook',
      component: () => import('../features/logbook').then((m) => m.LogbookPage),
    },
    {
      path: '/logbook/:id',
      name: 'log',
      component: () => import('../features/logbook').then((m) => m.LogPage),
    },
    {
      path: '/compare',
      name: 'compare',
      component: () => import('../features/logbook').then((m) => m.ComparePage),
    },
    {
      path: '/history/:subject/:id',
      name: 'history',
      component: () => import('../features/history').then((m) => m.HistoryPage),
    },
    {
      path: '/work-it-out/:sum?',
      name: 'work',
      component: () => import('../features/work').then((m) => m.WorkPage),
    },
    {
      path: '/practice',
      name: 'practice',
      component: () => import('../features/practice').then((m) => m.HallPage),
    },
    {
      path: '/practice/schools',
      name: 'schools',
      component: () => import('../features/practice').then((m) => m.SchoolsPage),
    },
    {
      path: '/practice/:id',
      name: 'practicing',
      component: () => import('../features/practice').then((m) => m.PracticePage),
    },
    { path: '/shop', name: 'shop', component: () => import('../features/shop').then((m) => m.ShopPage) },
    { path: '/:rest(.*)*', name: 'nowhere', component: () => import('./Nowhere.vue') },
  ],
})
