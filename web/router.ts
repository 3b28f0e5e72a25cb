import { createRouter, createWebHistory } from 'vue-router'
import { STAGES } from '../core/piece/stages'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'cabinet', component: () => import('./cabinet/CabinetPage.vue') },
    {
      path: `/piece/:id/:stage(${STAGES.join('|')})?`,
      name: 'bench',
      component: () => import('./bench/BenchPage.vue'),
    },
    { path: '/line-up/:set', name: 'line-up', component: () => import('./line-up/LineUpPage.vue') },
    { path: '/:rest(.*)*', name: 'nowhere', component: () => import('./common/NowherePage.vue') },
  ],
})
