<script setup lang="ts">
import { watchEffect } from 'vue'
import { useView } from './stores/view.ts'
import NoticeList from './views/NoticeList.vue'

const view = useView()
watchEffect(() => (window.document.documentElement.dataset['theme'] = view.theme))
</script>

<template>
  <RouterView />
  <NoticeList />
</template>
