export { escapeHeader, escapeHtml, safeAddress } from './escape';
export type { PrepareOptions } from './preparation';
export { prepare, type Mail, type Render, type Rendered } from './prepare';
export { contextFor, type RenderOptions } from './record';
export type { Trail, TrailEntry } from './trail';
export { narrowCatalog, type Narrowed } from './narrow';
export { sampleContext, sampleText } from './sample';
export { Digest } from './digest';
export { bandOf, bitOf, OUTCOMES, outcomesOf, Tally, type Decision, type Outcome } from './tally';
