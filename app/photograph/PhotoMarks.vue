<script setup lang="ts">
// Lines, points, scale, measures and masks over the photograph, with what they miss by.
import { computed } from 'vue'
import { projectPoint } from '#core/camera'
import { lineArrows, type PicturePlace } from '#core/match'
import { askedOf } from '#model/photo'
import { MARK_LETTERS, placedLabels, type PlacedLabel } from '../controls/labels.ts'
import { bundleLook } from './bundle-looks.ts'
import { handlesOf } from './handles.ts'
import MarkName from './MarkName.vue'
import { useMatch } from './match.ts'
import { useMeasures } from './measures.ts'
import { useOpenedPhoto } from './opened.ts'
import { usePicks } from './picks.ts'
import { usePhotoTools } from './tools.ts'

const props = defineProps<{
  view: { k: number; x: number; y: number }
  width: number
  height: number
  drawn: { readonly from: PicturePlace; readonly to: PicturePlace } | null
  outline: readonly PicturePlace[]
  pointer: PicturePlace | null
  bundleId: string | null
}>()
const { photo, match, solved, weakest, camera } = useMatch()
const { edges, pointedAt } = useOpenedPhoto()
const { chosen, arrows, showsEdges, tool } = usePhotoTools()
const { texts } = useMeasures()
const picks = usePicks()

const w = ([x, y]: PicturePlace): readonly [number, number] => [props.view.x + x * props.view.k, props.view.y + y * props.view.k] // prettier-ignore
const d = (points: readonly PicturePlace[], close = false): string =>
  points.map((p, i) => `${i === 0 ? 'M' : 'L'}${w(p).map((v) => v.toFixed(2)).join(' ')}`).join('') + (close ? 'Z' : '') // prettier-ignore
const order = computed(() => new Map(match.value?.bundles.map((b, i) => [b.id, i])))
const lookOf = (bundleId: string) => bundleLook(order.value.get(bundleId) ?? 0)
const isWeak = (kind: 'line' | 'pair', i: number): boolean => weakest.value?.kind === kind && weakest.value.index === i
const lines = computed(() =>
  (match.value?.lines ?? []).map((l, i) => {
    const [a, b] = [w(l.points[0]!), w(l.points.at(-1)!)]
    return {
      ...{ id: l.id, d: d(l.points), ...lookOf(l.bundleId), at: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] as const },
      name: `${lookOf(l.bundleId).letter}${i + 1}`,
      isWeak: isWeak('line', i),
    }
  }),
)
/** Where each place of a line would have to move to. */
const lineMisses = computed(() => {
  const [p, s] = [photo.value, solved.value]
  return p && s && match.value && arrows.value
    ? lineArrows(askedOf({ ...p, match: match.value }).lines, s.estimate)
    : []
})
/** Arrows are as many times as long as the misses, so that the longest can be seen: a round number. */
const times = computed(() => {
  const most = Math.max(
    0,
    ...[...(solved.value?.pairMissesPx ?? []), ...lineMisses.value.flat()]
      .map(([x, y]) => Math.hypot(x, y))
      .filter(Number.isFinite),
  )
  if (!(most > 0.01)) return 1
  const raw = 40 / (most * props.view.k)
  return [1, 2, 5, 10, 20, 50, 100, 200, 500].filter((n) => n <= Math.max(1, raw)).at(-1)!
})
const pairs = computed(() =>
  (match.value?.pairs ?? []).map((p, i) => {
    const at = w(p.image)
    const miss = solved.value?.pairMissesPx[i]
    const by = props.view.k * times.value
    const isWrong = solved.value?.wrong.includes(i) ?? false
    return {
      ...{ id: p.id, at, name: `${i + 1}`, isWrong, isWeak: isWeak('pair', i) },
      arrow:
        miss && arrows.value && Number.isFinite(miss[0]) ? `M${at[0]} ${at[1]}l${miss[0] * by} ${miss[1] * by}` : '',
    }
  }),
)
/** Where the names of lines and points go, none over another: the chosen and the doubtful first; where no room is left there is none. */
const names = computed(() => {
  const rank = (m: { id: string; isWeak: boolean }): number => (m.id === chosen.value?.id ? 0 : m.isWeak ? 1 : 2)
  const marks = [...lines.value, ...pairs.value].sort((a, b) => rank(a) - rank(b))
  const placed = placedLabels(marks.map(({ at: [x, y], name }) => ({ x, y, text: name })), { letters: MARK_LETTERS }) // prettier-ignore
  return new Map<string, PlacedLabel | null>(marks.map((m, i) => [m.id, placed[i]!]))
})
/** From where a line was put towards where it would agree; those too short to be seen are left out. */
const lineArrowPaths = computed(() =>
  (match.value?.lines ?? []).flatMap((l, i) =>
    (lineMisses.value[i] ?? []).flatMap((miss, k) => {
      const by = props.view.k * times.value
      const [x, y] = w(l.points[k] ?? l.points[0]!)
      return Math.hypot(...miss) * by > 3 ? [`M${x} ${y}l${miss[0] * by} ${miss[1] * by}`] : []
    }),
  ),
)
const measures = computed(() =>
  (match.value?.measures ?? []).map((m) => {
    const [a, b] = [w(m.from), w(m.to)]
    return { id: m.id, d: d([m.from, m.to]), at: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] as const, text: texts.value.get(m.id) ?? '' } // prettier-ignore
  }),
)
const scale = computed(() => {
  const s = match.value?.scale
  if (!s) return null
  if (s.kind === 'length') return { d: d([s.from, s.to]), at: w(s.from), text: `${s.lengthM.toFixed(2)} m` }
  return { d: '', at: w(s.foot), text: `eye ${s.heightM.toFixed(2)} m` }
})
const found = computed(() => {
  const e = edges.value
  if (!e || !showsEdges.value || tool.value !== 'line') return ''
  let path = ''
  for (let i = 0; i < e.ends.length; i += 4) path += d([[e.ends[i]!, e.ends[i + 1]!], [e.ends[i + 2]!, e.ends[i + 3]!]]) // prettier-ignore
  return path
})
const pointed = computed(() => {
  const e = edges.value?.ends
  return e
    ? (pointedAt.value ?? [])
        .map((i) =>
          d([
            [e[i * 4]!, e[i * 4 + 1]!],
            [e[i * 4 + 2]!, e[i * 4 + 3]!],
          ]),
        )
        .join('')
    : ''
})
const hasArrows = computed(() => arrows.value && pairs.value.length + lineArrowPaths.value.length > 0)
const handles = computed(() => (match.value ? handlesOf(match.value) : []).map((h) => ({ ...h, w: w(h.at), on: h.chosen !== null && h.chosen.id === chosen.value?.id }))) // prettier-ignore
const ghost = computed(() => (picks.expected() ? w(picks.expected()!) : null))
const shadowTop = computed(() => {
  const at = picks.top.value && camera.value ? projectPoint(camera.value, picks.top.value) : null
  return at && w([at.xPx, at.yPx])
})
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" :width="width" :height="height" aria-hidden="true">
    <path v-if="found" class="found" :d="found" />
    <template v-if="pointed">
      <path class="case" :d="pointed" />
      <path class="pointed" :d="pointed" />
    </template>
    <g v-for="m in match?.masks ?? []" :key="m.id" class="mask" :class="{ on: chosen?.id === m.id }">
      <path :d="d(m.points, true)" />
    </g>
    <path v-if="outline.length > 0" class="mask-new" :d="d(pointer ? [...outline, pointer] : outline)" />
    <g v-for="l in lines" :key="l.id" :class="{ on: chosen?.id === l.id, weak: l.isWeak }">
      <path class="case" :d="l.d" />
      <path class="line" :d="l.d" :style="{ stroke: l.tone, strokeDasharray: l.dash }" />
      <MarkName :at="names.get(l.id)" :text="l.name" :tone="l.tone" />
    </g>
    <template v-if="drawn">
      <path class="case" :d="d([drawn.from, drawn.to])" />
      <path
        class="line"
        :d="d([drawn.from, drawn.to])"
        :style="{ stroke: lookOf(bundleId ?? '').tone, strokeDasharray: lookOf(bundleId ?? '').dash }"
      />
    </template>
    <g v-for="m in measures" :key="m.id" class="measure" :class="{ on: chosen?.id === m.id }">
      <path class="case" :d="m.d" />
      <path class="thin" :d="m.d" />
      <MarkName :at="{ x: m.at[0] + 6, y: m.at[1] - 7 }" :text="m.text" />
    </g>
    <g v-if="scale" class="measure">
      <path class="case" :d="scale.d" />
      <path class="thick" :d="scale.d" />
      <MarkName :at="{ x: scale.at[0] + 8, y: scale.at[1] + 15 }" :text="scale.text" />
    </g>
    <g v-for="p in pairs" :key="p.id" :class="{ on: chosen?.id === p.id, weak: p.isWeak, wrong: p.isWrong }">
      <path v-if="p.arrow" class="case" :d="p.arrow" />
      <path v-if="p.arrow" class="arrow" :d="p.arrow" marker-end="url(#tip)" />
      <path class="case" :d="`M${p.at[0] - 8} ${p.at[1]}h16M${p.at[0]} ${p.at[1] - 8}v16`" />
      <path class="cross" :d="`M${p.at[0] - 8} ${p.at[1]}h16M${p.at[0]} ${p.at[1] - 8}v16`" />
      <MarkName :at="names.get(p.id)" :text="p.name" />
    </g>
    <template v-for="(a, i) in lineArrowPaths" :key="`a${i}`">
      <path class="case" :d="a" />
      <path class="arrow" :d="a" marker-end="url(#tip)" data-testid="line-arrow" />
    </template>
    <circle
      v-for="(h, i) in handles"
      :key="i"
      class="grip"
      :class="{ on: h.on }"
      :cx="h.w[0]"
      :cy="h.w[1]"
      :r="h.on ? 5 : 3.5"
    />
    <g v-if="ghost" class="ghost">
      <circle :cx="ghost[0]" :cy="ghost[1]" r="9" />
      <circle :cx="ghost[0]" :cy="ghost[1]" r="1.5" />
    </g>
    <g v-if="shadowTop" class="ghost"><circle :cx="shadowTop[0]" :cy="shadowTop[1]" r="7" /></g>
    <defs>
      <marker id="tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto">
        <path class="tip" d="M0 0L8 4L0 8Z" />
      </marker>
    </defs>
    <MarkName v-if="hasArrows && times > 1" :at="{ x: 14, y: 24 }" :text="`Arrows × ${times}`" />
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  pointer-events: none;
  font-family: var(--mono);
  font-size: 11px;
}
path {
  fill: none;
}
.case {
  stroke: var(--bundle-case);
  stroke-width: 4;
}
.line {
  stroke-width: 1.8;
}
.on .line,
.on .cross {
  stroke-width: 3;
}
.weak .line {
  stroke-width: 3;
}
.weak .case,
.wrong .case {
  stroke: #f2c14e;
  stroke-width: 7;
}
.found {
  stroke: #fff9;
  stroke-width: 1;
  mix-blend-mode: difference;
}
.pointed {
  stroke: var(--bundle-1);
  stroke-width: 2;
}
.cross,
.arrow {
  stroke: var(--bundle-1);
  stroke-width: 1.6;
}
.tip {
  fill: var(--bundle-1);
}
.measure .thin,
.measure .thick {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.measure .thick {
  stroke-width: 2.4;
}
.mask path {
  fill: #22252b2e;
  stroke: #fff;
  stroke-width: 1.4;
  stroke-dasharray: 3 3;
}
.mask.on path {
  stroke-width: 2.4;
}
.mask-new {
  stroke: #fff;
  stroke-width: 1.6;
}
.grip {
  fill: #fff;
  stroke: #6b3f7a;
  stroke-width: 1.5;
}
.grip.on {
  fill: #6b3f7a;
  stroke: #fff;
}
.ghost circle {
  fill: none;
  stroke: #fff;
  stroke-width: 2;
  stroke-dasharray: 3 2;
}
</style>
