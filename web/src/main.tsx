import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router'
import { Refused } from './api/client'
import { router } from './app/routes'
import './app/theme.css'
import { UnitsProvider } from './app/units'

const cache = new QueryClient({
  defaultOptions: { queries: { retry: (count, error) => error instanceof Refused && error.problem.status === 0 && count < 3, refetchOnWindowFocus: false } },
})

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={cache}>
      <UnitsProvider>
        <RouterProvider router={router} />
      </UnitsProvider>
    </QueryClientProvider>
  </StrictMode>,
)
