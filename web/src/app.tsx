import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { listen } from './api/events';
import { queryClient } from './api/queries';
import { startOutbox } from './capture/outbox';
import { router } from './papers/router';
import { applyTheme } from './papers/theme';
import './styles.css';

applyTheme();
listen();
startOutbox();

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
