<script setup lang="ts">
import { watchEffect } from 'vue'
import { useView } from '../stores/view.ts'
import HeaderBar from './HeaderBar.vue'
import NoticeList from './NoticeList.vue'

const view = useView()
watchEffect(() => (window.document.documentElement.dataset['theme'] = view.theme))
</script>

<template>
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
