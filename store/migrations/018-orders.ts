/** What a delivery is to be made of is kept from its order until it ends. One that was ordered before is ordered anew. */
export const orders = `
CREATE TABLE delivery_orders (
  delivery_id uuid NOT NULL REFERENCES deliveries ON DELETE CASCADE, number integer NOT NULL, part_id uuid NOT NULL,
  name text NOT NULL, title text NOT NULL, parts jsonb NOT NULL, heard jsonb NOT NULL,
  PRIMARY KEY (delivery_id, number)
);
ALTER TABLE deliveries ADD COLUMN sheet_count integer, ADD COLUMN track_rate integer;
UPDATE deliveries SET sheet_count = file_count, track_rate = 22050;
ALTER TABLE deliveries ALTER COLUMN sheet_count SET NOT NULL, ALTER COLUMN track_rate SET NOT NULL;
UPDATE deliveries SET state = 'failed', ended_at = now(),
  problem = '{"code": "program-updated", "message": "This program was updated while the delivery was made. Deliver again: files that were finished are used again."}'
  WHERE state = 'running';
`
