export { SimulatedCarriersPage } from './SimulatedCarriersPage.tsx';
export { VisitMessages } from './VisitMessages.tsx';
