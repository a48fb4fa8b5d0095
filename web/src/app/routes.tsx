import { lazy, Suspense } from 'react'
import { createBrowserRouter, Navigate } from 'react-router'
import { JobFrame } from '../places/JobFrame'
import { Jobs } from '../places/jobs/Jobs'
import { Setups } from '../places/setups/Setups'
import { Empty, Loading } from '../ui/States'
import { SignIn } from './session'
import { Shell } from './shell'

const Part = lazy(() => import('../places/part/Part').then((m) => ({ default: m.Part })))
const Release = lazy(() =>
  import('../places/release/Release').then((m) => ({ default: m.Release })),
)
const Order = lazy(() => import('../places/order/Order').then((m) => ({ default: m.Order })))
const Compare = lazy(() =>
  import('../places/compare/Compare').then((m) => ({ default: m.Compare })),
)
const Propose = lazy(() =>
  import('../places/propose/Propose').then((m) => ({ default: m.Propose })),
)
const Time = lazy(() => import('../places/time/Time').then((m) => ({ default: m.Time })))
const Library = lazy(() =>
  import('../places/library/Library').then((m) => ({ default: m.Library })),
)
const Bench = lazy(() => import('../places/bench/Bench').then((m) => ({ default: m.Bench })))
const Record = lazy(() => import('../places/record/Record').then((m) => ({ default: m.Record })))
const FirstRun = lazy(() =>
  import('../places/shop/FirstRun').then((m) => ({ default: m.FirstRun })),
)
const Floor = lazy(() => import('../places/floor/Floor').then((m) => ({ default: m.Floor })))

const later = (page: React.ReactNode) => (
  <Suspense fallback={<Loading what="the page" />}>{page}</Suspense>
)

const places = [
  { index: true, element: <Navigate to="setups" replace /> },
  { path: 'part', element: later(<Part />) },
  { path: 'setups', element: <Setups /> },
  { path: 'order', element: later(<Order />) },
  { path: 'time', element: later(<Time />) },
  { path: 'propose', element: later(<Propose />) },
  { path: 'compare', element: later(<Compare />) },
  { path: 'release', element: later(<Release />) },
]

export const router = createBrowserRouter([
  { path: '/', element: <Navigate to="/jobs" replace /> },
  { path: '/sign-in', element: <SignIn /> },
  {
    path: '/jobs',
    element: (
      <Shell>
        <Jobs />
      </Shell>
    ),
  },
  { path: '/jobs/:number', element: <JobFrame />, children: places },
  // another plan of the job than the one it goes by
  { path: '/jobs/:number/of/:variant', element: <JobFrame />, children: places },
  { path: '/library', element: <Navigate to="/library/machines" replace /> },
  { path: '/library/:kind', element: <Shell>{later(<Library />)}</Shell> },
  { path: '/library/:kind/:itemKey', element: <Shell>{later(<Library />)}</Shell> },
  { path: '/library/:kind/:itemKey/times', element: <Shell>{later(<Library />)}</Shell> },
  { path: '/bench', element: <Shell>{later(<Bench />)}</Shell> },
  { path: '/bench/:name', element: <Shell>{later(<Bench />)}</Shell> },
  { path: '/record', element: <Shell>{later(<Record />)}</Shell> },
  { path: '/first-run', element: <Shell>{later(<FirstRun />)}</Shell> },
  { path: '/floor', element: later(<Floor />) },
  {
    path: '*',
    element: (
      <Shell>
        <Empty title="There is no such page">Look for it among the jobs, or press Ctrl K.</Empty>
      </Shell>
    ),
  },
])
