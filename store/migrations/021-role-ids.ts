/** Scripts call roles by their ids: in passages, in directions, and in the edits that can be undone. */
export const roleIds = `
INSERT INTO roles (id, production_id, name)
  SELECT gen_random_uuid(), n.production_id, n.name FROM (
    SELECT e.production_id, s.role AS name FROM passages s JOIN parts p ON p.id = s.part_id JOIN editions e ON e.id = p.edition_id WHERE s.role IS NOT NULL
    UNION SELECT e.production_id, d->>'role' FROM passages s JOIN parts p ON p.id = s.part_id JOIN editions e ON e.id = p.edition_id, jsonb_array_elements(s.content->'directions') d WHERE d->>'kind' = 'role'
    UNION SELECT e.production_id, f->>'role' FROM edits t JOIN editions e ON e.id = t.edition_id, jsonb_array_elements(t.changes) c, jsonb_array_elements(jsonb_build_array(c->'before', c->'after')) f
      WHERE c->>'of' = 'passage' AND f->>'role' IS NOT NULL
    UNION SELECT e.production_id, d->>'role' FROM edits t JOIN editions e ON e.id = t.edition_id, jsonb_array_elements(t.changes) c, jsonb_array_elements(jsonb_build_array(c->'before', c->'after')) f,
      jsonb_array_elements(coalesce(f->'content'->'directions', '[]')) d WHERE c->>'of' = 'passage' AND jsonb_typeof(f->'content') = 'object' AND d->>'kind' = 'role'
  ) n ON CONFLICT (production_id, name) DO NOTHING;
CREATE FUNCTION role_id(production uuid, named text) RETURNS jsonb LANGUAGE sql STABLE AS $$
  SELECT to_jsonb(r.id) FROM roles r WHERE r.production_id = production AND r.name = named
$$;
CREATE FUNCTION content_with_role_ids(production uuid, content jsonb) RETURNS jsonb LANGUAGE sql STABLE AS $$
  SELECT jsonb_set(content, '{directions}', coalesce((
    SELECT jsonb_agg(CASE WHEN d->>'kind' = 'role' THEN jsonb_set(d, '{role}', role_id(production, d->>'role')) ELSE d END ORDER BY place)
    FROM jsonb_array_elements(content->'directions') WITH ORDINALITY AS x(d, place)), '[]'))
$$;
CREATE FUNCTION fields_with_role_ids(production uuid, fields jsonb) RETURNS jsonb LANGUAGE sql STABLE AS $$
  SELECT CASE WHEN jsonb_typeof(fields) <> 'object' THEN fields ELSE fields
    || CASE WHEN fields->>'role' IS NULL THEN '{}' ELSE jsonb_build_object('role', role_id(production, fields->>'role')) END
    || CASE WHEN jsonb_typeof(fields->'content') = 'object' THEN jsonb_build_object('content', content_with_role_ids(production, fields->'content')) ELSE '{}' END END
$$;
UPDATE passages s SET role = role_id(e.production_id, s.role) #>> '{}' FROM parts p JOIN editions e ON e.id = p.edition_id WHERE p.id = s.part_id AND s.role IS NOT NULL;
UPDATE passages s SET content = content_with_role_ids(e.production_id, s.content) FROM parts p JOIN editions e ON e.id = p.edition_id
  WHERE p.id = s.part_id AND s.content->'directions' @> '[{"kind": "role"}]';
UPDATE edits t SET changes = (
    SELECT jsonb_agg(CASE WHEN c->>'of' = 'passage'
      THEN c || jsonb_build_object('before', fields_with_role_ids(e.production_id, c->'before'), 'after', fields_with_role_ids(e.production_id, c->'after')) ELSE c END ORDER BY place)
    FROM jsonb_array_elements(t.changes) WITH ORDINALITY AS x(c, place))
  FROM editions e WHERE e.id = t.edition_id AND t.changes::text LIKE '%"role"%';
DROP FUNCTION fields_with_role_ids;
DROP FUNCTION content_with_role_ids;
DROP FUNCTION role_id;
ALTER TABLE passages ALTER COLUMN role TYPE uuid USING role::uuid;
`
