/** What an engine is asked for is written in a form of its own now: a reading that runs stops and says so. What is read stays. */
export const requests = `
UPDATE readings SET state = 'stopped', ended_at = now(),
  problem = '{"code": "program-updated", "message": "This program was updated while the reading ran. What was read is kept; read what is missing again."}'
  WHERE state = 'running';
`
