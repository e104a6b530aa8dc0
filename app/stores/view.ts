// How the person has arranged the page: never part of the project, never undone.
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref } from 'vue'

export type Tool = 'turn' | 'orbit' | 'slide' | 'dolly' | 'stand'
export type PanelName = 'stand' | 'lens' | 'frame'
export type SideView = 'sight' | 'north' | 'east' | 'south' | 'west'

export const useView = defineStore('view', () => {
  const theme = useLocalStorage<'day' | 'night'>('yoroi.theme', 'day')
  const singleKeys = useLocalStorage('yoroi.singleKeys', true)
  const lastKept = useLocalStorage<string[]>('yoroi.lastKept', ['stand', 'lens', 'frame'])
  const panel = ref<PanelName>('stand')
  const tool = ref<Tool>('turn')
  const overlays = ref(true)
  const keepLevel = ref(true)
  const keepSquare = ref(false)
  const keepSize = ref(false)
  const storey = ref(0)
  const side = ref<SideView>('sight')
  const keeping = ref<'keep' | 'new' | null>(null)
  const help = ref(false)
  const commands = ref(false)

  function forSubject(subject: 'room' | 'product'): void {
    tool.value = subject === 'room' ? 'turn' : 'orbit'
    keepLevel.value = subject === 'room'
    keepSquare.value = false
    storey.value = 0
    side.value = 'sight'
    keeping.value = null
  }
  return {
    theme,
    singleKeys,
    lastKept,
    panel,
    tool,
    overlays,
    keepLevel,
    keepSquare,
    keepSize,
    storey,
    side,
    keeping,
    help,
    commands,
    forSubject,
  }
})
