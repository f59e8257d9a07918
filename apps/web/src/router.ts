import { createRouter, createWebHistory } from 'vue-router';

/** The rooms follow the work. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/footage' },
    { path: '/footage', name: 'footage', component: () => import('./footage/FootageRoom.vue') },
    { path: '/footage/:id', name: 'clip', component: () => import('./clip/ClipScreen.vue'), props: true },
    { path: '/record', name: 'record', component: () => import('./record/RecordRoom.vue') },
    { path: '/live', redirect: '/record' },
    { path: '/disk', name: 'disk', component: () => import('./disk/DiskPage.vue') },
    { path: '/takes', name: 'takes', component: () => import('./takes/TakesRoom.vue') },
    { path: '/takes/:id', name: 'take', component: () => import('./look/TakeScreen.vue'), props: true },
    { path: '/:rest(.*)*', name: 'lost', component: () => import('./shell/LostPage.vue') },
  ],
});
