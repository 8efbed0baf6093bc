import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { applyTheme } from '../papers/theme';
import { Phone } from './Phone';
import '../styles.css';

applyTheme();
if ('serviceWorker' in navigator) void navigator.serviceWorker.register('/phone-worker.js', { scope: '/c' });

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <Phone />
  </StrictMode>,
);
