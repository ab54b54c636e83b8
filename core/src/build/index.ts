export { build, skeletonsOf } from './build';
export type { BuildOptions, Built } from './known';
export { PROGRAM_VERSION, type LoopProgram, type Op, type Program } from './program';
export type { Skeletons } from './skeleton';
export type { BuildFinding } from './writer';
