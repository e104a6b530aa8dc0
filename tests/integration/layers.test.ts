// The layer table is enforced: a deliberate violation fails lint.
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
