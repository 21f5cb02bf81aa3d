/** How the files of an edition are named, what their tags say besides its title and author, and the picture on their cover. A delivery that is being made is ordered anew, with its chapters. */
export const labels = `
ALTER TABLE editions ADD COLUMN name_rules jsonb, ADD COLUMN details jsonb, ADD COLUMN cover jsonb;
ALTER TABLE deliveries ADD COLUMN details jsonb, ADD COLUMN cover jsonb;
UPDATE deliveries SET state = 'failed', ended_at = now(),
  problem = '{"code": "program-updated", "message": "This program was updated while the delivery was made. Deliver again: files that were finished are used again."}'
  WHERE state = 'running';
DELETE FROM delivery_orders;
ALTER TABLE delivery_orders ADD COLUMN chapters jsonb NOT NULL;
`
