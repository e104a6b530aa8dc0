// The camera of a photograph, solved beside the page: a thin door, no maths here.
import { expose } from 'comlink'
import { leaveOneOut, solvePhoto } from '#core/match'
import type { MatchDoor } from './photo-contract.ts'

const door: MatchDoor = {
  solve: async (asked) => solvePhoto(asked),
  weakest: async (asked, answer) => leaveOneOut(asked, answer),
}
expose(door)
