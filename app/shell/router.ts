// Addresses: every state that can be linked has one.
import { createRouter, createWebHistory } from 'vue-router'
import ProjectsView from '../projects/ProjectsView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: ProjectsView },
    {
      path: '/project/:id',
      component: () => import('./ProjectView.vue'),
      props: true,
      children: [
        { path: '', component: () => import('../frame/FrameView.vue') },
        { path: 'photograph/:photoId?', component: () => import('../photograph/PhotographView.vue'), props: true },
        { path: 'walk', component: () => import('../walk/WalkView.vue') },
      ],
    },
    { path: '/:rest(.*)*', component: () => import('./MissingView.vue') },
  ],
})
