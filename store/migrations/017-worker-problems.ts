/** A worker that is there and cannot work says why. */
export const workerProblems = `
ALTER TABLE workers ADD COLUMN problem jsonb;
`
