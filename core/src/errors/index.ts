export { plainErrors } from './plainErrors';
