import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, RouterProvider, useRouteError } from 'react-router'
import { Toaster } from 'sonner'
import { loadOwn } from './session/own'
import { ShelfPage } from './shelf/ShelfPage'
import './styles.css'

const BenchPage = lazy(() => import('./bench/BenchPage'))
const SettingsPage = lazy(() =>
  import('./settings/SettingsPage').then((m) => ({ default: m.SettingsPage })),
)

const client = new QueryClient({
  defaultOptions: { queries: { retry: false, networkMode: 'always' } },
})

function Broken() {
  const error = useRouteError()
  return (
    <main className="mx-auto max-w-prose p-10">
      <h1 className="mb-2 font-medium text-2xl">This page broke down</h1>
      <p>Your work was saved after the last change. Reload the page to go on.</p>
      <p className="figures mt-4 text-soft">
        {error instanceof Error ? error.message : String(error)}
      </p>
    </main>
  )
}

const waiting = <p className="p-10 text-soft">Setting up the bench…</p>
const router = createBrowserRouter([
  { path: '/', element: <ShelfPage />, errorElement: <Broken /> },
  {
    path: '/w/:id/:stage?',
    element: (
      <Suspense fallback={waiting}>
        <BenchPage />
      </Suspense>
    ),
    errorElement: <Broken />,
  },
  {
    path: '/settings',
    element: (
      <Suspense fallback={waiting}>
        <SettingsPage />
      </Suspense>
    ),
    errorElement: <Broken />,
  },
  { path: '*', element: <Navigate to="/" replace /> },
])

void loadOwn()
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <Tooltip.Provider delayDuration={0} disableHoverableContent>
        <RouterProvider router={router} />
        <Toaster
          position="bottom-center"
          toastOptions={{
            style: {
              background: 'var(--sheet)',
              color: 'var(--ink)',
              borderColor: 'var(--rule)',
            },
          }}
        />
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
)
