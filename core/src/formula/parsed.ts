import { parse } from './parse';
import { remember } from './remember';
import { parseRunning } from './running';

/** The formulas of a designer's templates are asked for again and again. */
const KEPT = 5_000;

/** `parse`, each formula once. What it gives is shared and never changed. */
export const parsedFormula = remember(KEPT, parse);

/** `parseRunning`, each text once. */
export const parsedRunning = remember(KEPT, parseRunning);
