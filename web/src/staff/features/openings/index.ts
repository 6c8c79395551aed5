export { WhyNotPanel } from './components/WhyNotPanel.tsx';
export { openingsApi } from './openings.api.ts';
