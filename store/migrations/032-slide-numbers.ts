/** Slides that were taken in before, and their hints, have their numbers: their places among the slides of their script. */
export const slideNumbers = `
UPDATE parts SET about = jsonb_set(coalesce(parts.about, '{}'), '{slide}', to_jsonb(counted.slide))
FROM (SELECT id, kind, count(*) FILTER (WHERE kind = 'slide') OVER (PARTITION BY edition_id ORDER BY rank) AS slide FROM parts) counted
WHERE parts.id = counted.id AND counted.kind IN ('slide', 'hint') AND counted.slide > 0 AND parts.about -> 'slide' IS NULL;
`
