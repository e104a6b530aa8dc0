<script setup lang="ts">
// The frame check: measured findings about the present picture, each with its reason, what to show and how to mend it.
import { IconAlertTriangle, IconInfoCircle, IconAlertOctagon } from '@tabler/icons-vue'
import { computed, ref } from 'vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import CheckLimits from './CheckLimits.vue'
import { useCheck } from './check.ts'

const check = useCheck()
const project = useProject()
const stage = useStage()
const ICONS = { problem: IconAlertOctagon, warning: IconAlertTriangle, note: IconInfoCircle }
const open = ref(true)
const known = computed(() => stage.storeys.length > 0 && (project.document?.models.length ?? 0) > 0)
</script>

<template>
  <section class="check" aria-label="Frame check">
    <button class="plain head" :aria-expanded="open" @click="open = !open">
      <b>Frame check</b>
      <span class="quiet">{{
        !known ? '' : check.findings.length === 0 ? '✓ nothing found' : `${check.findings.length} found`
      }}</span>
    </button>
    <ul v-if="open && check.findings.length" data-testid="findings">
      <li
        v-for="(f, i) in check.findings"
        :key="f.id + i"
        :class="[f.severity, { shown: check.shownAt === i }]"
        :data-testid="`finding-${f.id}`"
      >
        <component :is="ICONS[f.severity]" :size="14" stroke="1.8" />
        <span class="what">
          <span>{{ f.message }}</span>
          <span class="reason quiet">{{ f.reason }}</span>
          <span class="do">
            <button class="plain link" :aria-pressed="check.shownAt === i" @click="check.show(i)">
              {{ check.shownAt === i ? 'Shown' : 'Show' }}
            </button>
            <button v-if="f.mend" class="plain link" @click="check.mend(i)">{{ f.mend.label }}</button>
          </span>
        </span>
      </li>
    </ul>
    <CheckLimits v-if="open && known" />
  </section>
</template>

<style scoped>
.check {
  border-top: 1px solid var(--line);
  background: var(--panel);
  max-height: 42%;
  overflow-y: auto;
  flex: none;
}
.head {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding: 7px 14px 6px;
  position: sticky;
  top: 0;
  background: var(--panel);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 0 6px;
}
li {
  display: flex;
  gap: 7px;
  padding: 4px 14px 5px;
  font-size: 12px;
}
li > svg {
  flex: none;
  margin-top: 1px;
  color: var(--ochre);
}
li.note > svg {
  color: var(--quiet);
}
li.shown {
  background: color-mix(in srgb, var(--ochre) 12%, transparent);
}
.what {
  display: grid;
  gap: 1px;
  min-width: 0;
}
.reason {
  font-size: 11.5px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
</style>
