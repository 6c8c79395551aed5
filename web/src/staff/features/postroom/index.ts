export { PostroomPage } from './PostroomPage.tsx';
export { VisitMessages } from './VisitMessages.tsx';
