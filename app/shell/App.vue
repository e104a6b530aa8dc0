<script setup lang="ts">
import { watchEffect } from 'vue'
import { useView } from '../stores/view.ts'
import HeaderBar from './HeaderBar.vue'
import { useProject } from '../stores/project.ts'
import NoticeList from './NoticeList.vue'
import SkipLinks from './SkipLinks.vue'

const view = useView()
const project = useProject()
watchEffect(() => (window.document.documentElement.dataset['theme'] = view.theme))
</script>

<template>
  <SkipLinks v-if="project.document" />
  <div class="app">
    <HeaderBar />
    <RouterView />
  </div>
  <NoticeList />
</template>

<style scoped>
.app {
  height: 100%;
  display: grid;
  grid-template-rows: 46px minmax(0, 1fr);
  grid-template-columns: minmax(0, 1fr);
  min-width: 850px;
}
</style>
