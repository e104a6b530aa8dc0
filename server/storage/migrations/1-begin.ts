// The first tables.
import type { MigrationInterface, QueryRunner } from 'typeorm'

export class Begin1764000000000 implements MigrationInterface {
  readonly name = 'Begin1764000000000'

  async up(q: QueryRunner): Promise<void> {
    await q.query(`CREATE TABLE "project" (
      "id" varchar PRIMARY KEY, "name" varchar NOT NULL, "revision" integer NOT NULL,
      "createdAt" varchar NOT NULL, "updatedAt" varchar NOT NULL, "cover" blob, "coverType" varchar)`)
    await q.query(`CREATE TABLE "revision" (
      "projectId" varchar NOT NULL, "number" integer NOT NULL, "document" text NOT NULL, "label" varchar, "savedAt" varchar NOT NULL,
      PRIMARY KEY ("projectId", "number"),
      FOREIGN KEY ("projectId") REFERENCES "project" ("id") ON DELETE CASCADE)`)
    await q.query(`CREATE TABLE "asset" (
      "sha256" varchar PRIMARY KEY, "uploadId" varchar NOT NULL UNIQUE, "sizeBytes" integer NOT NULL,
      "mediaType" varchar NOT NULL, "fileName" varchar NOT NULL, "createdAt" varchar NOT NULL)`)
    await q.query(`CREATE TABLE "asset_chunk" (
      "uploadId" varchar NOT NULL, "index" integer NOT NULL, "data" blob NOT NULL, PRIMARY KEY ("uploadId", "index"))`)
  }

  async down(q: QueryRunner): Promise<void> {
    for (const t of ['asset_chunk', 'asset', 'revision', 'project']) await q.query(`DROP TABLE "${t}"`)
  }
}
