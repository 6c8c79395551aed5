import { STANDARD_VIEW, type ViewSettings } from '@zaguan/contracts/daybook';
import { createContext, use } from 'react';

/** How the Daybook around is drawn: by the Lens that is chosen, or the one that is being edited. */
export const ViewContext = createContext<ViewSettings>(STANDARD_VIEW);

export const useView = (): ViewSettings => use(ViewContext);
