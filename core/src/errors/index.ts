export { plainErrors } from './plainErrors';
export { plainIssues } from './plainIssues';
