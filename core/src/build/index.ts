export { build, type BuildOptions, type Built } from './build';
export { PROGRAM_VERSION, type LoopProgram, type Op, type Program } from './program';
export type { BuildFinding } from './writer';
