/** House styles that were made before give scene breaks the rest of all others. */
export const sceneBreaks = `
UPDATE house_styles SET rules = jsonb_set(rules, '{rests,sceneBreak}', '{"beforeMs": 0, "afterMs": 1200}') WHERE rules -> 'rests' -> 'sceneBreak' IS NULL;
`
