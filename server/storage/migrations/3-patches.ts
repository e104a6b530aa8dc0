// Revisions that hold what changed since the one before, not the whole document.
import type { MigrationInterface, QueryRunner } from 'typeorm'

export class Patches1764300000000 implements MigrationInterface {
  readonly name = 'Patches1764300000000'

  async up(q: QueryRunner): Promise<void> {
    await q.query('ALTER TABLE "revision" ADD COLUMN "isPatch" boolean NOT NULL DEFAULT 0')
  }

  async down(q: QueryRunner): Promise<void> {
    await q.query('ALTER TABLE "revision" DROP COLUMN "isPatch"')
  }
}
