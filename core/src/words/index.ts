export { counted, figure } from './counted';
