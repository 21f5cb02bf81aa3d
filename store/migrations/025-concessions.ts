/** Why a delivery is handed over although files of it do not keep their profile. */
export const concessions = `
ALTER TABLE deliveries ADD COLUMN concession jsonb;
`
