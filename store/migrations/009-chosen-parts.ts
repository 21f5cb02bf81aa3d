/** A delivery can be of some parts only; null is all of them. */
export const chosenParts = `
ALTER TABLE deliveries ADD COLUMN part_ids jsonb;
`
