<script setup lang="ts">
// The directions of the building that lines are drawn along: which one is drawn now, how it runs, and those found in the photograph.
import { computed } from 'vue'
import NumberField from '../controls/NumberField.vue'
import { MATCH_LIMITS, type Bundle } from '#model'
import { newId } from '../stores/project.ts'
import { bundleLook } from './bundle-looks.ts'
import { useMatch } from './match.ts'
import { useOpenedPhoto } from './opened.ts'
import { usePhotoTools } from './tools.ts'

const { match, change } = useMatch()
const { edges, pointedAt, isFinding, find } = useOpenedPhoto()
const { bundleId, tool } = usePhotoTools()
const bundles = computed(() =>
  (match.value?.bundles ?? []).map((b, i) => ({
    ...b,
    ...bundleLook(i),
    count: match.value!.lines.filter((l) => l.bundleId === b.id).length,
  })),
)
const active = computed(() => match.value?.bundles.find((b) => b.id === bundleId.value) ?? null)
function choose(id: string): void {
  bundleId.value = id
  if (tool.value !== 'measure' && tool.value !== 'scale') tool.value = 'line'
}
function set(changes: Partial<Bundle>): void {
  const m = match.value
  if (m && active.value)
    change({ bundles: m.bundles.map((b) => (b.id === active.value!.id ? { ...b, ...changes } : b)) })
}
function add(): void {
  const m = match.value
  if (!m || m.bundles.length >= MATCH_LIMITS.bundles) return
  const id = newId()
  if (change({ bundles: [...m.bundles, { id, name: 'Slope', bearingDeg: 0, tiltDeg: 30 }] })) bundleId.value = id
}
/** Which of the building’s level directions is which cannot be seen: turned until the model lies as the photograph shows it. */
function turnAll(): void {
  const m = match.value
  if (!m) return
  const turned = (b: Bundle): Bundle => (Math.abs(b.tiltDeg) > 89 ? b : { ...b, bearingDeg: (b.bearingDeg + 90) % 360 })
  change({ bundles: m.bundles.map(turned) })
}
const isUsed = computed(() => {
  const m = match.value
  if (!m || !active.value) return true
  const id = active.value.id
  return [...m.lines, ...(m.measures ?? [])].some((x) => x.bundleId === id) || (m.scale?.kind === 'length' && m.scale.bundleId === id) // prettier-ignore
})
function drop(): void {
  const m = match.value
  if (m && active.value && !isUsed.value) change({ bundles: m.bundles.filter((b) => b.id !== active.value!.id) })
}
/** Found bundles that are not taken yet, with the direction that they likely are. */
const offers = computed(() => {
  const m = match.value
  if (!m || !edges.value) return []
  let level = 0
  return edges.value.bundles.slice(0, 5).map((b, i) => {
    const upright = m.bundles.find((x) => Math.abs(x.tiltDeg) > 89)
    const flat = m.bundles.filter((x) => x.tiltDeg === 0)
    const to = b.kind === 'up' ? upright : flat[Math.min(level++, flat.length - 1)]
    return { ...b, key: i, to: to ?? null }
  })
})
/** So many of a found bundle's edges are taken: the longest tell most. */
const TAKEN = 12
function take(offer: (typeof offers.value)[number], to: string): void {
  const m = match.value
  const e = edges.value
  if (!m || !e) return
  const room = MATCH_LIMITS.lines - m.lines.length
  const lines = offer.members.slice(0, Math.min(TAKEN, room)).map((at) => ({
    id: newId(),
    bundleId: to,
    points: [
      [e.ends[at * 4]!, e.ends[at * 4 + 1]!],
      [e.ends[at * 4 + 2]!, e.ends[at * 4 + 3]!],
    ] as [[number, number], [number, number]],
  }))
  change({ lines: [...m.lines, ...lines] })
}
</script>

<template>
  <section aria-label="Directions">
    <h2>Directions</h2>
    <div role="radiogroup" aria-label="Direction that is drawn" class="list">
      <button
        v-for="b in bundles"
        :key="b.id"
        class="plain bundle"
        role="radio"
        :aria-checked="b.id === bundleId"
        :class="{ on: b.id === bundleId }"
        @click="choose(b.id)"
      >
        <svg width="34" height="12" aria-hidden="true">
          <path d="M1 6H33" :style="{ stroke: b.tone, strokeDasharray: b.dash }" />
        </svg>
        <span class="name">{{ b.letter }} {{ b.name }}</span>
        <span class="num quiet">{{ b.count }}</span>
      </button>
    </div>
    <template v-if="active">
      <NumberField
        label="Bearing"
        suffix="°"
        kind="angle"
        :model-value="active.bearingDeg"
        :min="-720"
        :max="720"
        hint="Where its lines run in the world, clockwise from north"
        @change="set({ bearingDeg: $event })"
      />
      <NumberField
        label="Upward"
        suffix="°"
        kind="angle"
        :model-value="active.tiltDeg"
        :min="-90"
        :max="90"
        hint="0 is level, 90 upright"
        @change="set({ tiltDeg: $event })"
      />
      <div class="buttons">
        <button
          class="btn"
          title="The level directions a quarter further round: where “into” runs east in the model, not north"
          @click="turnAll"
        >
          Turn by 90°
        </button>
        <button class="btn" title="A roof slope, a wall at another angle" @click="add">Add a direction</button>
        <button class="btn" :disabled="isUsed" title="Only where nothing is drawn along it" @click="drop">
          Take out
        </button>
      </div>
    </template>
    <hr />
    <div class="buttons">
      <button
        class="btn"
        :disabled="isFinding || edges !== null"
        :data-took-ms="edges ? Math.round(edges.tookMs) : undefined"
        title="Straight edges of the photograph, and which of them run together (E)"
        @click="find"
      >
        {{ isFinding ? 'Looking…' : edges ? `${edges.ends.length / 4} edges found` : 'Find edges' }}
      </button>
    </div>
    <ul v-if="offers.length > 0" class="offers">
      <li
        v-for="o in offers"
        :key="o.key"
        :title="`${Math.round(o.supportPx)} px together`"
        @pointerenter="pointedAt = o.members"
        @pointerleave="pointedAt = null"
        @focusin="pointedAt = o.members"
        @focusout="pointedAt = null"
      >
        <span class="what"
          ><b class="num">{{ o.members.length }}</b> {{ o.kind === 'up' ? 'upright' : 'to a side' }}</span
        >
        <button
          v-for="b in bundles"
          :key="b.id"
          class="btn"
          :class="{ likely: b.id === o.to?.id }"
          :title="`Takes the longest of them as lines of “${b.name}”`"
          :aria-label="`Take as ${b.name}`"
          @click="take(o, b.id)"
        >
          {{ b.letter }}
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped src="../controls/boxes.css"></style>
<style scoped>
.bundle {
  display: grid;
  grid-template-columns: 34px 1fr auto;
  gap: 8px;
  align-items: center;
  text-align: left;
  padding: 4px 14px;
}
.bundle.on {
  background: var(--plum-soft);
  box-shadow: inset 3px 0 var(--plum);
}
path {
  stroke-width: 2.2;
}
.offers li {
  display: flex;
  gap: 4px;
  align-items: center;
  padding: 3px 14px;
  font-size: 11.5px;
}
.offers .btn {
  min-height: 22px;
  padding: 0 7px;
}

.what {
  flex: 1;
  white-space: nowrap;
}
.offers .likely {
  border-color: var(--plum);
  color: var(--plum);
}
</style>
