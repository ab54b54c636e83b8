export { counted, figure } from './counted';
export { fieldWords } from './fieldWords';
