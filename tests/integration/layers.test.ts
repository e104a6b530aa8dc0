// The layer table is enforced: a deliberate violation fails lint.
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'
import { ESLint } from 'eslint'
import { describe, expect, it } from 'vitest'

const eslint = new ESLint()
async function messages(code: string, filePath: string): Promise<string[]> {
  const [result] = await eslint.lintText(code, { filePath })
  return result!.messages
    .filter((m) => m.ruleId === 'no-restricted-imports' || m.ruleId?.startsWith('no-restricted'))
    .map((m) => m.message)
}

describe('who may import whom', () => {
  it.each([
    [
      'core/camera/bad.ts',
      `import { newProject } from '#model'\nexport const a = newProject`,
      /core may import core only/,
    ],
    [
      'core/camera/bad.ts',
      `import { Vector3 } from 'three'\nexport const a = Vector3`,
      /packages gl-matrix, ml-matrix only/,
    ],
    ['core/camera/bad.ts', `import { readFileSync } from 'node:fs'\nexport const a = readFileSync`, /no Node modules/],
    ['model/bad.ts', `import { soupOf } from '../mesh/soup.ts'\nexport const a = soupOf`, /model may import core only/],
    ['mesh/bad.ts', `import { ref } from 'vue'\nexport const a = ref`, /mesh may use/],
    ['stage/bad.ts', `import { useView } from '#app/stores/view.ts'\nexport const a = useView`, /stage may import/],
    ['server/bad.ts', `import { createStage } from '#stage'\nexport const a = createStage`, /server may import/],
    ['app/bad.ts', `import { startServer } from '#server'\nexport const a = startServer`, /app may import/],
    ['core/base/bad.ts', `export const a = Math.random()`, /seeded generator/],
    [
      'app/stores/bad.ts',
      `import { action } from '../actions/registry.ts'\nexport const a = action`,
      /app\/stores may import/,
    ],
    [
      'app/bring/bad.ts',
      `import { useFraming } from '../frame/camera/framing.ts'\nexport const a = useFraming`,
      /app\/bring may import/,
    ],
    [
      'app/frame/check/bad.ts',
      `import H from '../../shell/HeaderBar.vue'\nexport const a = H`,
      /app\/frame may import/,
    ],
    [
      'app/frame/camera/bad.ts',
      `import { a } from '../strips/snapping.ts'\nexport const b = a`,
      /app\/frame\/camera may import/,
    ],
    [
      'app/frame/camera/bad.ts',
      `import { a } from '../actions.ts'\nexport const b = a`,
      /app\/frame\/camera may import/,
    ],
    [
      'app/frame/picture/bad.ts',
      `import { startServer } from '#server'\nexport const a = startServer`,
      /app may import/,
    ],
  ])('%s: %s', async (file, code, message) => {
    const found = await messages(code, file)
    expect(found.length).toBeGreaterThan(0)
    expect(found[0]).toMatch(message)
  })
  it('and what is allowed passes', async () => {
    expect(await messages(`import { newProject } from '#model'\nexport const a = newProject`, 'app/good.ts')).toEqual(
      [],
    )
    expect(
      await messages(`import { add } from '../math/index.ts'\nexport const a = add`, 'core/camera/good.ts'),
    ).toEqual([])
  })
})

/** Files that import each other in a ring, types included. */
function rings(): string[][] {
  const files = execFileSync(
    'git',
    ['ls-files', 'app', 'core', 'mesh', 'model', 'formats', 'stage', 'workers', 'server'],
    { encoding: 'utf8' },
  )
    .split('\n')
    .filter((f) => /\.(ts|vue)$/.test(f) && !f.includes('.test.') && existsSync(f))
  const to = new Map(
    files.map((f) => [
      f,
      [...readFileSync(f, 'utf8').matchAll(/from '(\.[^']+)'/g)].map((m) => normalize(join(dirname(f), m[1]!))),
    ]),
  )
  const found: string[][] = []
  const done = new Set<string>()
  const visit = (f: string, path: readonly string[]): void => {
    if (path.includes(f)) return void found.push([...path.slice(path.indexOf(f)), f])
    if (done.has(f)) return
    for (const next of to.get(f) ?? []) visit(next, [...path, f])
    done.add(f)
  }
  for (const f of files) visit(f, [])
  return found
}
it('no files import each other in a ring', () => expect(rings()).toEqual([]))
