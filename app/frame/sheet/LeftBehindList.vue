<script setup lang="ts">
// Framings left with changes that no viewpoint keeps: taken back by a click.
import { IconArrowBackUp, IconX } from '@tabler/icons-vue'
import Popover from 'primevue/popover'
import { ref } from 'vue'
import type { LeftBehind } from '#model'
import { useNotices } from '../../stores/notices.ts'
import { newStamp, useProject } from '../../stores/project.ts'
import FramingThumb from '../thumbs/FramingThumb.vue'

const project = useProject()
const notices = useNotices()
const left = ref<InstanceType<typeof Popover> | null>(null)
const takeBack = (l: LeftBehind): void => {
  left.value?.hide()
  project.run({ type: 'takeBack', leftBehindId: l.id, stamp: newStamp() })
}
const drop = (l: LeftBehind): void => {
  if (project.run({ type: 'dropLeftBehind', leftBehindId: l.id }))
    notices.say('The framing is off the list.', 'plain', { label: 'Undo', run: project.undoOfThis() })
}
const time = (iso: string): string => new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
</script>

<template>
  <div class="left">
    <button
      class="btn"
      aria-haspopup="dialog"
      title="Framings left with changes that no viewpoint keeps"
      @click="left?.toggle($event)"
    >
      <IconArrowBackUp :size="14" stroke="1.6" />Left behind
      <b class="num">{{ project.document?.leftBehind.length }}</b>
    </button>
    <Popover ref="left">
      <div class="behind" aria-label="Left behind">
        <p class="quiet">Framings left with unkept changes, newest first. Click to take one back.</p>
        <div v-for="l in project.document?.leftBehind ?? []" :key="l.id" class="behind-row">
          <button class="plain small" @click="takeBack(l)"><FramingThumb :setup="l.setup" /></button>
          <button class="plain text" @click="takeBack(l)">
            {{ l.fromName ? `from “${l.fromName}”` : 'a free framing' }}<br /><span class="quiet num">{{
              time(l.at)
            }}</span>
          </button>
          <button class="plain" title="Take off the list" @click="drop(l)">
            <IconX :size="14" stroke="1.6" /><span class="visually-hidden">Take off the list</span>
          </button>
        </div>
      </div>
    </Popover>
  </div>
</template>

<style scoped>
.left {
  display: grid;
  place-content: center;
  padding: 0 12px;
  border-left: 1px solid var(--line);
}
.behind {
  width: 250px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  max-height: 360px;
  overflow: auto;
}
.behind-row {
  display: flex;
  gap: 8px;
  align-items: center;
}
.behind-row .small {
  width: 84px;
  height: 52px;
  flex: none;
}
.behind-row .text {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  text-align: left;
  font-size: 12px;
}
</style>
