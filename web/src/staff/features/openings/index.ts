export { WhyNotPanel } from './components/WhyNotPanel.tsx';
