// Saves that can be recognised when they are sent again; assets that know since when nothing refers to them.
import type { MigrationInterface, QueryRunner } from 'typeorm'

export class Recognised1764200000000 implements MigrationInterface {
  readonly name = 'Recognised1764200000000'

  async up(q: QueryRunner): Promise<void> {
    await q.query('ALTER TABLE "revision" ADD COLUMN "saveId" varchar')
    await q.query('ALTER TABLE "asset" ADD COLUMN "unreferencedSince" varchar')
  }

  async down(q: QueryRunner): Promise<void> {
    await q.query('ALTER TABLE "asset" DROP COLUMN "unreferencedSince"')
    await q.query('ALTER TABLE "revision" DROP COLUMN "saveId"')
  }
}
