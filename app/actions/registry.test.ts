// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import { handleKey, isClosedDropDown, keyOf, type Action } from './registry.ts'

const press = (key: string, more: KeyboardEventInit = {}, target: EventTarget = document.body): KeyboardEvent => {
  const e = new KeyboardEvent('keydown', { key, cancelable: true, bubbles: true, ...more })
  Object.defineProperty(e, 'target', { value: target })
  return e
}
function list(): { actions: Action[]; ran: string[] } {
  const ran: string[] = []
  const action = (id: string, key: string, enabled = true): Action => ({
    id,
    label: id,
    group: '',
    key,
    enabled: () => enabled,
    run: () => void ran.push(id),
  })
  return {
    ran,
    actions: [
      action('level', 'L'),
      action('keep-new', 'Shift+K'),
      action('back', '['),
      action('undo', 'Ctrl+Z'),
      action('save', 'Ctrl+S'),
      action('off', 'X', false),
      action('help', 'F1'),
    ],
  }
}
const calm = { dialogOpen: false, singleKeys: true, dragging: false }

describe('keys', () => {
  it('are named as the list writes them', () => {
    expect(keyOf(press('l'))).toBe('L')
    expect(keyOf(press('K', { shiftKey: true }))).toBe('Shift+K')
    expect(keyOf(press('Z', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+Z')
    expect(keyOf(press('['))).toBe('[')
    expect(keyOf(press('?', { shiftKey: true }))).toBe('F1')
  })
  it('run their action and claim the event only when there is one', () => {
    const { actions, ran } = list()
    const e = press('l')
    expect(handleKey(e, actions, calm)).toBe(true)
    expect(e.defaultPrevented).toBe(true)
    expect(handleKey(press('q'), actions, calm)).toBe(false)
    expect(handleKey(press('x'), actions, calm)).toBe(true)
    expect(ran).toEqual(['level'])
  })
  it('leave typing alone, dialogs and drags too; letters can be switched off', () => {
    const { actions, ran } = list()
    const input = document.createElement('input')
    expect(handleKey(press('l', {}, input), actions, calm)).toBe(false)
    expect(handleKey(press('z', { ctrlKey: true }, input), actions, calm)).toBe(false)
    expect(handleKey(press('s', { ctrlKey: true }, input), actions, calm)).toBe(true)
    expect(handleKey(press('l'), actions, { ...calm, dialogOpen: true })).toBe(false)
    expect(handleKey(press('l'), actions, { ...calm, dragging: true })).toBe(false)
    expect(handleKey(press('l'), actions, { ...calm, singleKeys: false })).toBe(false)
    expect(handleKey(press('z', { ctrlKey: true }), actions, { ...calm, singleKeys: false })).toBe(true)
    // a number field that nobody has typed at since has no text to undo
    input.dataset['untyped'] = ''
    expect(handleKey(press('z', { ctrlKey: true }, input), actions, calm)).toBe(true)
    expect(handleKey(press('l', {}, input), actions, calm)).toBe(false)
    expect(ran).toEqual(['save', 'undo', 'undo'])
  })
  it('run wherever focus is, unless text is typed there: on check boxes, sliders and closed drop-downs too', () => {
    const { actions, ran } = list()
    const make = (html: string): Element => {
      document.body.innerHTML = html
      return document.body.querySelector('[data-it]') ?? document.body.firstElementChild!
    }
    const takes = [
      '<input type="text">',
      '<input type="search">',
      '<textarea></textarea>',
      '<div contenteditable="true"><b data-it>x</b></div>',
      '<span role="combobox" aria-expanded="true"></span>',
      '<ul role="listbox"><li data-it></li></ul>',
      '<input role="combobox" aria-expanded="false">',
    ]
    for (const html of takes)
      expect([html, handleKey(press('l', {}, make(html)), actions, calm)]).toEqual([html, false])
    const leaves = [
      '<input type="checkbox">',
      '<input type="radio">',
      '<input type="range">',
      '<button>x</button>',
      '<span role="combobox" aria-expanded="false"></span>',
      '<span role="combobox"></span>',
    ]
    for (const html of leaves)
      expect([html, handleKey(press('l', {}, make(html)), actions, calm)]).toEqual([html, true])
    expect(ran).toEqual(leaves.map(() => 'level'))
    expect([isClosedDropDown(make(leaves[4]!)), isClosedDropDown(make(takes[4]!)), isClosedDropDown(null)]).toEqual([
      true,
      false,
      false,
    ])
  })
})
