import './styles.css';
import './i18n.ts';
import { Tooltip } from 'radix-ui';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { App } from './routes.tsx';
import { applyPrefs } from './prefs.slice.ts';
import { store } from './store.ts';

applyPrefs(store);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <Tooltip.Provider delayDuration={350} skipDelayDuration={100}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </Tooltip.Provider>
    </Provider>
  </StrictMode>,
);
