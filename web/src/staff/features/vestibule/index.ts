export { VestibulePage } from './VestibulePage.tsx';
