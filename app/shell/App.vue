<script setup lang="ts">
import { nextTick, ref, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { useView } from '../stores/view.ts'
import HeaderBar from './HeaderBar.vue'
import { useProject } from '../stores/project.ts'
import NoticeList from './NoticeList.vue'
import SkipLinks from './SkipLinks.vue'

const view = useView()
const project = useProject()
const start = ref<HTMLElement | null>(null)
useRouter().afterEach((to, from) => {
  if (from.matched.length > 0 && to.path !== from.path) void nextTick(() => start.value?.focus({ preventScroll: true }))
})
watchEffect(() => (window.document.documentElement.dataset['theme'] = view.theme))
</script>

<template>
  <!-- where the keyboard stands when another view has opened: before its first stop -->
  <span ref="start" class="visually-hidden start" tabindex="-1">{{ project.document?.name ?? 'Projects' }}</span>
  <SkipLinks v-if="project.document && !/\/(photograph|walk)(\/|$)/.test($route.path)" />
  <div class="app">
    <HeaderBar />
    <RouterView />
  </div>
  <NoticeList />
</template>

<style scoped>
.start:focus {
  outline: none;
}
.app {
  height: 100%;
  display: grid;
  grid-template-rows: 46px minmax(0, 1fr);
  grid-template-columns: minmax(0, 1fr);
  min-width: 850px;
}
</style>
