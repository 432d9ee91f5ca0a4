export { Problem } from './problem'
export { service } from './service'
export type * from './types'
