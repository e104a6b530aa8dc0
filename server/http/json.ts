// JSON that comes in: unpacked, limited by its size and by how many things it holds, before it is parsed.
// Model: parsing millions of empty objects holds the process for seconds; counting brackets in the bytes does not.

import express, { type RequestHandler } from 'express'
import { AppError } from '#core/base'

/** A full project holds some tens of thousands of objects and lists. */
const MOST_THINGS = 400_000

/** The parsed body in `req.body`, undefined where it is no JSON by its type. AppError `bad-request`, `body-too-large`. */
export function jsonBody(limitBytes: number): RequestHandler[] {
  return [
    express.raw({ type: 'application/json', limit: limitBytes }),
    (req, _res, next) => {
      if (Buffer.isBuffer(req.body)) req.body = parsed(req.body)
      next()
    },
  ]
}

function parsed(bytes: Buffer): unknown {
  if (things(bytes) > MOST_THINGS)
    throw new AppError('body-too-large', `It holds more than ${MOST_THINGS.toLocaleString('en')} things.`)
  try {
    return JSON.parse(bytes.toString('utf8'))
  } catch {
    throw new AppError('bad-request', 'Its body is not JSON.')
  }
}

/** Brackets that open; those inside texts count too. */
function things(bytes: Buffer): number {
  let n = 0
  for (const b of bytes) if (b === 0x7b || b === 0x5b) n++
  return n
}
