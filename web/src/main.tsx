import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router/dom'
import { Refused } from './api/client'
import { router } from './app/routes'
import './app/theme.css'
import { UnitsProvider } from './app/units'

const cache = new QueryClient({
  defaultOptions: {
    queries: {
      // a broken line a few times, an answer that is still being worked out until it is there
      retry: (count, error) =>
        error instanceof Refused &&
        ((error.problem.status === 0 && count < 3) || (error.problem.status === 503 && count < 40)),
      retryDelay: (count, error) =>
        error instanceof Refused && error.problem.status === 503 ? 700 : 400 * 2 ** count,
      refetchOnWindowFocus: false,
    },
  },
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
