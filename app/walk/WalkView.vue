<script setup lang="ts">
// Moving pictures: the reel's moment large, its cuts on a ruler of time, how it is played, the shot's numbers, what makes it uncomfortable.
import { useEventListener, useFullscreen } from '@vueuse/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import { useRouter } from 'vue-router'
import { action, grouped, handleKey, offerActions } from '../actions/registry.ts'
import { isDragging } from '../controls/drag.ts'
import { timecode } from '#core/reel'
import { useProject } from '../stores/project.ts'
import { useView } from '../stores/view.ts'
import ComfortBox from './ComfortBox.vue'
import { useExporting } from './exporting.ts'
import { useFilm } from './film.ts'
import FilmPicture from './FilmPicture.vue'
import ReelList from './ReelList.vue'
import ReelRuler from './ReelRuler.vue'
import ShotPanel from './ShotPanel.vue'
import { useWalking } from './walking.ts'
import WayDrawing from './WayDrawing.vue'

const project = useProject()
const view = useView()
const router = useRouter()
const { part, reel, fps, faults, timeS, timeUnit, isPlaying, loops, speed, toggle, stop, go, step } = useFilm()
const { csv, gltf } = useExporting()
const { tool } = useWalking()
const stageBox = ref<HTMLElement | null>(null)
const { isFullscreen, toggle: fill } = useFullscreen(stageBox)
const has = (): boolean => reel.value.durationS > 0
onBeforeUnmount(stop)
const actions = [
  ...grouped('Reel', [
    action('reel-play', 'Play, and stop', toggle, { key: ' ', enabled: has }),
    action('reel-start', 'To the beginning', () => go(0), { key: 'Home', enabled: has }),
    action('reel-back', 'One frame back', () => step(-1), { key: ',', enabled: has }),
    action('reel-on', 'One frame on', () => step(1), { key: '.', enabled: has }),
    action('reel-full', 'Fill the screen, without controls', () => void fill(), { key: 'F', enabled: has }),
    action('reel-csv', 'Save the path as a table (CSV)', csv, { enabled: has }),
    action('reel-gltf', 'Save the path as an animation (glTF)', gltf, { enabled: has }),
    action('to-frame', 'Back to the frame', () => void router.push(`/project/${project.id}`)),
  ]),
  ...grouped('Trail and undo', [
    action('undo', 'Undo the last edit', project.undoEdit, { key: 'Ctrl+Z', enabled: () => project.canUndo }),
    action('redo', 'Redo', project.redoEdit, { key: 'Ctrl+Shift+Z', enabled: () => project.canRedo }),
  ]),
  ...grouped('Yoroi', [
    action('commands', 'All commands', () => (view.commands = true), { key: 'Ctrl+K' }),
    action('help', 'Keys and help', () => (view.help = true), { key: 'F1' }),
  ]),
]
offerActions(() => actions)
/** What is large in the middle. */
const main = ref<'picture' | 'plan' | 'side'>('picture')
/** What is being placed ends; then the picture is the large one again. */
function escape(): void {
  if (tool.value) tool.value = null
  else main.value = 'picture'
}
useEventListener(window, 'keydown', (e) => {
  const dialogOpen = view.help || view.commands || project.saveState === 'conflict'
  if (e.key === 'Escape' && !dialogOpen && !isDragging() && !isFullscreen.value) return escape()
  handleKey(e, actions, { dialogOpen, singleKeys: view.singleKeys, dragging: isDragging() })
})
const enlarge = (which: 'plan' | 'side'): void => void (main.value = main.value === which ? 'picture' : which)
/** Seconds alone would hide on which frame one is. */
const timeOf = (t: number): string =>
  timeUnit.value === 'frames' ? `frame ${Math.round(t * fps.value)}` : timecode(t, fps.value)
const SPEEDS = [0.25, 0.5, 1, 2]
const faultText = computed(() => [...new Set(faults.value.map((f) => f.message))].join(' '))
</script>

<template>
  <div class="view">
    <h1 class="visually-hidden">{{ project.document?.name }}: walk</h1>
    <aside class="left" aria-label="Reels"><ReelList /></aside>
    <main>
      <div class="panes" :class="main">
        <div ref="stageBox" class="stage">
          <FilmPicture>{{
            part ? faultText : 'Begin a reel at the left: it shows the viewpoints that you keep in the frame.'
          }}</FilmPicture>
          <button v-if="main !== 'picture'" class="btn back" @click="main = 'picture'">Picture large</button>
        </div>
        <WayDrawing v-if="part" class="plan" kind="plan" :large="main === 'plan'" @enlarge="enlarge('plan')" />
        <WayDrawing v-if="part" class="side" kind="side" :large="main === 'side'" @enlarge="enlarge('side')" />
      </div>
      <template v-if="part">
        <div class="transport" role="toolbar" aria-label="Transport">
          <button class="btn" :disabled="!has()" title="To the beginning (Home)" @click="go(0)">Start</button>
          <button class="btn" :disabled="!has()" title="One frame back (,)" @click="step(-1)">−1</button>
          <button class="btn main" :disabled="!has()" title="Play, and stop (Space)" @click="toggle">
            {{ isPlaying ? 'Stop' : 'Play' }}
          </button>
          <button class="btn" :disabled="!has()" title="One frame on (.)" @click="step(1)">+1</button>
          <span class="num time" data-testid="timecode">{{ timeOf(timeS) }} / {{ timeOf(reel.durationS) }}</span>
          <label class="tick"><input v-model="loops" type="checkbox" />Loop</label>
          <span class="speeds" role="radiogroup" aria-label="Speed">
            <button
              v-for="s in SPEEDS"
              :key="s"
              class="btn small"
              role="radio"
              :aria-checked="speed === s"
              :class="{ on: speed === s }"
              @click="speed = s"
            >
              {{ s }}×
            </button>
          </span>
          <button class="btn" :disabled="!has()" title="Without controls, for a client (F)" @click="fill()">
            {{ isFullscreen ? 'Leave' : 'Fill the screen' }}
          </button>
        </div>
        <p v-if="faultText" class="fault" role="status" data-testid="reel-faults">{{ faultText }}</p>
        <ReelRuler />
      </template>
    </main>
    <aside class="right" aria-label="Shot and comfort">
      <ShotPanel />
      <ComfortBox />
    </aside>
  </div>
</template>

<style scoped>
.view {
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr) 300px;
  min-height: 0;
  height: 100%;
}
aside {
  background: var(--panel);
  overflow: hidden auto;
  min-height: 0;
  padding-bottom: 16px;
}
.left {
  border-right: 1px solid var(--line);
}
.right {
  border-left: 1px solid var(--line);
}
main {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto auto auto;
  min-width: 0;
  min-height: 0;
}
.panes {
  display: grid;
  min-height: 0;
  grid-template-columns: minmax(180px, 34%) minmax(0, 1fr);
  grid-template-rows: minmax(0, 1.3fr) minmax(0, 1fr);
  grid-template-areas: 'plan stage' 'side stage';
}
.panes.plan {
  grid-template-areas: 'stage plan' 'side plan';
}
.panes.side {
  grid-template-areas: 'plan side' 'stage side';
}
.panes:not(:has(.strip)) {
  grid-template-areas: 'stage stage' 'stage stage';
}
.panes > .plan {
  grid-area: plan;
}
.panes > .side {
  grid-area: side;
}
.panes > * {
  min-width: 0;
  min-height: 0;
  border-right: 1px solid var(--line);
}
.stage {
  grid-area: stage;
  position: relative;
  display: grid;
  min-height: 0;
  padding: 12px;
  background: var(--mount);
}
.back {
  position: absolute;
  right: 8px;
  top: 8px;
}
.transport {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
  padding: 7px 14px;
  background: var(--panel);
  border-top: 1px solid var(--line);
}
.transport .btn {
  padding: 3px 9px;
}
.main {
  background: var(--plum);
  color: var(--on-plum);
  border-color: var(--plum);
}
.main:disabled {
  background: none;
  color: var(--quiet);
  border-color: var(--line);
}
.time {
  margin: 0 6px;
  font-size: 12px;
}
.tick {
  display: flex;
  gap: 4px;
  align-items: center;
  font-size: 12px;
}
.tick input {
  accent-color: var(--plum);
  margin: 0;
}
.speeds {
  display: flex;
  gap: 3px;
}
.fault {
  padding: 4px 14px;
  background: var(--panel);
  color: var(--ochre);
  font-size: 12px;
}
@media (max-width: 1100px) {
  .view {
    grid-template-columns: 190px minmax(0, 1fr) 260px;
  }
}
</style>
