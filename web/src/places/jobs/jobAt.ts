// The address of a job; its number may hold spaces.
export const jobAt = (number: string, plan: number | null = null) =>
  `/jobs/${encodeURIComponent(number)}${plan === null ? '' : `/of/${plan}`}`
