/** Profiles that were made before, and deliveries that are being made to such, leave the sound of the voice as it is. */
export const equaliser = `
UPDATE delivery_profiles SET profile = profile || '{"equaliser": null}';
UPDATE deliveries SET profile = profile || '{"equaliser": null}';
`
