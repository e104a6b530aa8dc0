// Hiding, showing and isolating on random trees, against what each means object by object.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isBelowHidden, isolated, setupAsShown, withHidden, withShown, type TreeNode, type Visible } from './visible.ts'
import {
  aimAt,
  applyCommand,
  newProject,
  projectSchema,
  shownOf,
  type ObjectSet,
  type ProjectDocument,
} from './index.ts'

/** A tree of random shape: each node hangs on an earlier one. */
const tree = fc.array(fc.nat(100), { minLength: 1, maxLength: 14 }).map((picks) => {
  const nodes: TreeNode[] = [{ id: 'm', parentId: null }]
  picks.forEach((p, i) => {
    const parent = nodes[p % nodes.length]!
    nodes.push({ id: `${parent.id}/n${i}`, parentId: parent.id })
  })
  return nodes
})
const someOf = (nodes: readonly TreeNode[], picks: readonly number[]): string[] => [...new Set(picks.map((p) => nodes[p % nodes.length]!.id))] // prettier-ignore
const picks = fc.array(fc.nat(100), { minLength: 1, maxLength: 4 })
const leaves = (nodes: readonly TreeNode[]) => nodes.filter((n) => !nodes.some((c) => c.parentId === n.id)).map((n) => n.id) // prettier-ignore
const gone = (v: Visible, id: string): boolean => v.hidden.includes(id) || isBelowHidden(id, new Set(v.hidden))
const isUnderAny = (id: string, ids: readonly string[]): boolean => ids.some((i) => id === i || id.startsWith(`${i}/`))

describe('on any tree', () => {
  it('showing a leaf shows it and changes no other leaf', () => {
    fc.assert(
      fc.property(tree, picks, picks, (nodes, off, on) => {
        const before = withHidden({ hidden: [] }, someOf(nodes, off))
        const wanted = someOf(
          leaves(nodes).map((id) => ({ id, parentId: null })),
          on,
        )
        const after = withShown(before, [], nodes, wanted)
        for (const leaf of leaves(nodes))
          expect(gone(after, leaf)).toBe(wanted.includes(leaf) ? false : gone(before, leaf))
      }),
    )
  })
  it('isolating leaves what was chosen, with all below it, and nothing else', () => {
    fc.assert(
      fc.property(tree, picks, picks, (nodes, off, on) => {
        const wanted = someOf(nodes, on)
        const after = isolated(withHidden({ hidden: [] }, someOf(nodes, off)), nodes, wanted)
        for (const leaf of leaves(nodes)) expect(gone(after, leaf)).toBe(!isUnderAny(leaf, wanted))
      }),
    )
  })
  it('sets hide the same as their objects one by one; a leaf of them shown again leaves the rest hidden', () => {
    fc.assert(
      fc.property(tree, picks, picks, picks, (nodes, one, two, off) => {
        const sets: ObjectSet[] = [one, two].map((p, i) => ({ id: `s${i}`, name: `S${i}`, objects: someOf(nodes, p) }))
        const visible: Visible = { ...withHidden({ hidden: [] }, someOf(nodes, off)), sets: ['s0', 's1', 'gone'] }
        const doc = document()
        const shown = setupAsShown({ ...doc.working, visible }, { objectSets: sets })
        const plain = withHidden(
          visible,
          sets.flatMap((s) => s.objects),
        )
        for (const leaf of leaves(nodes)) expect(gone(shown.visible, leaf)).toBe(gone(plain, leaf))
        const [first] = leaves(nodes)
        const after = setupAsShown(
          { ...doc.working, visible: withShown(visible, sets, nodes, [first!]) },
          { objectSets: sets },
        ).visible
        for (const leaf of leaves(nodes)) expect(gone(after, leaf)).toBe(leaf === first ? false : gone(plain, leaf))
      }),
    )
  })
})

const document = (): ProjectDocument =>
  newProject({ name: 'P', subject: 'room', stand: aimAt([0, 0, 1.6], [0, 5, 1.6]), models: [] })

describe('sets in the document', () => {
  it('are named, changed and checked by the schema; equal values stay the same value', () => {
    const run = (doc: ProjectDocument, command: Parameters<typeof applyCommand>[1]) => {
      const r = applyCommand(doc, command)
      if (!r.ok) throw new Error(r.message)
      return r.value.document
    }
    let doc = run(document(), { type: 'addSet', set: { id: 'a', name: ' Seats ', objects: ['m/Chair'] } })
    expect(doc.objectSets).toEqual([{ id: 'a', name: 'Seats', objects: ['m/Chair'] }])
    expect(applyCommand(doc, { type: 'addSet', set: { id: 'a', name: 'B', objects: [] } })).toMatchObject({ ok: false })
    expect(applyCommand(doc, { type: 'changeSet', setId: 'a', changes: { name: '  ' } })).toMatchObject({ reason: 'empty-name' }) // prettier-ignore
    expect(applyCommand(doc, { type: 'addSet', set: { id: 'b', name: 'x'.repeat(300), objects: [] } })).toMatchObject({ reason: 'out-of-range' }) // prettier-ignore
    expect(applyCommand(doc, { type: 'deleteSet', setId: 'none' })).toMatchObject({ reason: 'unknown-set' })
    doc = run(doc, { type: 'setPart', part: 'visible', value: { hidden: [], sets: ['a'], shadows: 'kept' } })
    const once = setupAsShown(doc.working, doc)
    expect(setupAsShown(doc.working, doc)).toBe(once)
    expect(shownOf(once)).toMatchObject({ hidden: ['m/Chair'], shadows: 'kept' })
    expect(projectSchema.safeParse(JSON.parse(JSON.stringify(doc))).success).toBe(true)
  })
})
