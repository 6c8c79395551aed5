export { IdentityReviewPage } from './IdentityReviewPage.tsx';
