export { NOBODY } from './moves';
export { solve, type Solved, type SolveGiven, type Target } from './solve';
