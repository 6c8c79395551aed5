export { WhyNotPanel } from './components/WhyNotPanel.tsx';
export { openingsApi } from './openings.api.ts';
export { type PlaceAndTime, placeAndTimeOf, textOfPlaceAndTime } from './placeAndTime.ts';
