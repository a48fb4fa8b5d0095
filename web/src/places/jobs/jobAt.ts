// The address of a job; its number may hold spaces.
export const jobAt = (number: string) => `/jobs/${encodeURIComponent(number)}`
