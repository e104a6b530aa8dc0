// What can go wrong in the outside world, and what is the person told?
// Model: one catalogue that server and interface both read: an HTTP status, what happened, and what to do. Details of the single
// case come with the error.

export interface ErrorEntry {
  readonly status: number
  readonly what: string
  readonly todo: string
}

export const ERRORS = {
  'bad-request': { status: 400, what: 'The request could not be understood.', todo: 'Reload the page and try again.' },
  'foreign-origin': {
    status: 403,
    what: 'The request came from another site or under another name.',
    todo: 'Open Yoroi at the address it printed when it started.',
  },
  'not-found': { status: 404, what: 'This page or file does not exist.', todo: 'Go back to the projects.' },
  'project-missing': {
    status: 404,
    what: 'This project does not exist any more.',
    todo: 'Go back to the projects; it may have been deleted in another tab.',
  },
  'revision-missing': {
    status: 404,
    what: 'This earlier version does not exist.',
    todo: 'Reload the list of versions; old ones are thinned out.',
  },
  'asset-missing': {
    status: 404,
    what: 'A file that the project uses is not stored here.',
    todo: 'Bring the model in again from your disk.',
  },
  'revision-conflict': {
    status: 409,
    what: 'The project was changed in another tab since this one read it.',
    todo: 'Choose which version to keep.',
  },
  'id-taken': { status: 409, what: 'Another project has this id already.', todo: 'Try again.' },
  'patch-mismatch': {
    status: 409,
    what: 'The change does not fit the version that is stored.',
    todo: 'The whole project is sent instead.',
  },
  'document-invalid': {
    status: 422,
    what: 'The project could not be read.',
    todo: 'Nothing was saved; the last saved version is unharmed.',
  },
  'document-newer': { status: 422, what: 'The project was made by a newer Yoroi.', todo: 'Update Yoroi to open it.' },
  'model-unreadable': {
    status: 422,
    what: 'The model file cannot be read.',
    todo: 'Export it again as binary glTF (.glb).',
  },
  'photo-unreadable': {
    status: 422,
    what: 'The photograph cannot be read.',
    todo: 'Save it again as JPEG, PNG or WebP.',
  },
  'upload-broken': { status: 422, what: 'The file did not arrive whole.', todo: 'Try the upload again.' },
  'upload-too-large': {
    status: 413,
    what: 'The file is larger than this Yoroi accepts.',
    todo: 'Make it smaller, or start Yoroi with a higher --upload-limit.',
  },
  'body-too-large': {
    status: 413,
    what: 'The project is larger than this Yoroi accepts.',
    todo: 'Delete viewpoints that are not needed.',
  },
  'asset-damaged': {
    status: 410,
    what: 'A file that the project uses is damaged in storage.',
    todo: 'Bring the model in again from your disk: that repairs it.',
  },
  'range-unsatisfiable': { status: 416, what: 'That part of the file does not exist.', todo: 'Reload the page.' },
  'precondition-failed': { status: 412, what: 'The file is another one by now.', todo: 'Reload the page.' },
  'storage-full': {
    status: 507,
    what: 'The disk is full: nothing more can be saved.',
    todo: 'Free some space; your work stays here and is saved as soon as there is room.',
  },
  'storage-busy': {
    status: 503,
    what: 'Another program keeps Yoroi’s data file locked.',
    todo: 'Close that program; your work stays here and is saved as soon as the file is free.',
  },
  'storage-damaged': {
    status: 500,
    what: 'Yoroi’s data file is damaged.',
    todo: 'Stop Yoroi, run “npm run check”, and put a backup in its place if it cannot be read.',
  },
  'storage-failed': {
    status: 503,
    what: 'The disk did not take what was to be saved.',
    todo: 'Look whether the disk is there and can be written; your work stays here and is tried again.',
  },
  offline: {
    status: 503,
    what: 'Yoroi’s server cannot be reached.',
    todo: 'Check that it is still running; your work stays here until it answers.',
  },
  internal: {
    status: 500,
    what: 'Something went wrong on the server.',
    todo: 'Try again; if it happens again, look at the server’s log.',
  },
} as const satisfies Record<string, ErrorEntry>

export type ErrorCode = keyof typeof ERRORS
/** Failures that pass by themselves or once the machine is put right: what was to be saved is kept and tried again. */
const PASSING: ReadonlySet<ErrorCode> = new Set([
  'offline',
  'internal',
  'storage-full',
  'storage-busy',
  'storage-failed',
])
export const isPassing = (code: ErrorCode): boolean => PASSING.has(code)
export const isErrorCode = (v: unknown): v is ErrorCode => typeof v === 'string' && v in ERRORS

/** A failure of the outside world, by its code in the catalogue, with the details of this case. */
export class AppError extends Error {
  readonly code: ErrorCode
  readonly detail: string | undefined
  readonly data: unknown
  constructor(code: ErrorCode, detail?: string, data?: unknown) {
    super(detail ? `${ERRORS[code].what} ${detail}` : ERRORS[code].what)
    this.name = 'AppError'
    this.code = code
    this.detail = detail
    this.data = data
  }
  get status(): number {
    return ERRORS[this.code].status
  }
}
