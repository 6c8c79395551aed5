import './styles.css';
import './i18n.ts';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { App } from './shell/App.tsx';
import { store } from './store.ts';

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <BrowserRouter basename="/book">
        <App />
      </BrowserRouter>
    </Provider>
  </StrictMode>,
);
