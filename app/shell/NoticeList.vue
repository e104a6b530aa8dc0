<script setup lang="ts">
import { IconX } from '@tabler/icons-vue'
import { useNotices, type Notice, type NoticeAction } from '../stores/notices.ts'

const notices = useNotices()
function act(n: Notice, action: NoticeAction): void {
  action.run()
  notices.drop(n.id)
}
</script>

<template>
  <div class="notices" aria-live="polite">
    <div
      v-for="n in notices.list"
      :key="n.id"
      class="notice"
      :class="n.kind"
      :role="n.kind === 'error' ? 'alert' : 'status'"
    >
      <span>{{ n.text }}</span>
      <template v-for="a in [n.action, n.other]" :key="a?.label">
        <button v-if="a" class="plain do" @click="act(n, a)">{{ a.label }}</button>
      </template>
      <button class="plain x" title="Close" @click="notices.drop(n.id)">
        <IconX :size="14" stroke="1.8" /><span class="visually-hidden">Close</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.notices {
  position: fixed;
  /* a corner of their own, never over the picture */
  left: 8px;
  bottom: 8px;
  display: grid;
  gap: 6px;
  z-index: 2000;
  width: 248px;
  pointer-events: none;
}
.notice {
  pointer-events: auto;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  padding: 8px 30px 8px 12px;
  position: relative;
  font-size: 12.5px;
  border-radius: 4px;
  background: var(--panel);
  color: var(--ink);
  border: 1px solid var(--line-strong);
  border-left: 4px solid var(--plum);
  box-shadow: var(--shadow);
}
.notice.warning,
.notice.error {
  border-left-color: var(--ochre);
}
.notice > span:first-child {
  flex: 1 0 100%;
  overflow-wrap: anywhere;
}
.do {
  color: var(--plum);
  font-weight: 600;
}
.x {
  position: absolute;
  right: 8px;
  top: 9px;
  color: var(--quiet);
  line-height: 0;
}
</style>
