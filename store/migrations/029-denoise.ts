/** Profiles that were made before, and deliveries that are being made to such, leave the noise of recordings as it is. */
export const denoise = `
UPDATE delivery_profiles SET profile = profile || '{"denoiseDb": null}';
UPDATE deliveries SET profile = profile || '{"denoiseDb": null}';
`
