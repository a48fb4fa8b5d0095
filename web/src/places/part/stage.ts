import { lazy } from 'react'

export const Stage = lazy(() => import('../../stage/Stage'))
