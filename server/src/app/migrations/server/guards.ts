/** Notes the key of a row, as the text that the chain has for it. A row without further words is known by its id. */
const noteKeyOf = (row: 'OLD' | 'NEW') => `
        IF TG_NARGS = 0 THEN key := ${row}.id; ELSE
          key := NULL;
          FOREACH name IN ARRAY TG_ARGV LOOP EXECUTE format('SELECT ($1).%I::text', name) INTO part USING ${row}; key := concat_ws('/', key, part); END LOOP;
        END IF;
        INSERT INTO pg_temp.touched VALUES (TG_TABLE_NAME, key) ON CONFLICT DO NOTHING;`

/** Refuses a movement that the ledger cannot take. @param arrived how many pieces of the lot can have arrived, as SQL */
export const movementAllowed = (arrived: string): string => `movement_allowed() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF NEW.from_standing = 'onHold' AND NEW.to_standing IN ('used', 'shipped') THEN RAISE EXCEPTION 'pieces on hold can be neither used nor shipped'; END IF;
      IF NEW.container_id IS NOT NULL AND (SELECT c.lot_id FROM container c WHERE c.id = NEW.container_id) IS DISTINCT FROM NEW.lot_id THEN
        RAISE EXCEPTION 'the container belongs to another lot';
      END IF;
      IF NEW.from_place_id IS NULL AND NEW.quantity + COALESCE((SELECT SUM(b.quantity) FROM balance b WHERE b.lot_id = NEW.lot_id), 0)
          > ${arrived} THEN
        RAISE EXCEPTION 'more arrives than the lot holds';
      END IF;
      IF NEW.from_place_id IS NOT NULL AND NEW.quantity > COALESCE((SELECT b.quantity FROM balance b WHERE b.lot_id = NEW.lot_id
          AND b.container_id = COALESCE(NEW.container_id, '') AND b.place_id = NEW.from_place_id AND b.standing = NEW.from_standing), 0) THEN
        RAISE EXCEPTION 'a movement takes more than there is';
      END IF;
      RETURN NEW;
    END $$`

/**
 * What the database refuses and keeps by itself, and the functions that SQLite has under the same names: the queries are written once.
 * The guards are those of SQLite's triggers.
 */
export const functions: readonly string[] = [
  `json_extract(document text, path text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$ SELECT document::jsonb #>> string_to_array(substr(path, 3), '.') $$`,
  `json_array_length(document text) RETURNS integer LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$ SELECT json_array_length(document::json) $$`,
  `json_each(document text) RETURNS TABLE (value text) LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$ SELECT json_array_elements_text(document::json) $$`,
  `json_each(document text, path text) RETURNS TABLE (value text) LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$ SELECT json_array_elements_text(document::json #> string_to_array(substr(path, 3), '.')) $$`,
  // Notes which rows a server's own connection writes; what another program writes is noted nowhere.
  `touch() RETURNS trigger LANGUAGE plpgsql AS $$
    DECLARE key text; part text; name text;
    BEGIN
      IF to_regclass('pg_temp.touched') IS NULL THEN RETURN NULL; END IF;
      IF TG_OP <> 'INSERT' THEN ${noteKeyOf('OLD')} END IF;
      IF TG_OP <> 'DELETE' THEN ${noteKeyOf('NEW')} END IF;
      RETURN NULL;
    END $$`,
  `refuse() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION '%', TG_ARGV[0]; END $$`,
  movementAllowed('(SELECT l.quantity FROM lot l WHERE l.id = NEW.lot_id)'),
  `movement_balanced() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      UPDATE balance SET quantity = quantity - NEW.quantity WHERE lot_id = NEW.lot_id AND container_id = COALESCE(NEW.container_id, '')
        AND place_id = NEW.from_place_id AND standing = NEW.from_standing;
      INSERT INTO balance (lot_id, container_id, place_id, standing, quantity, since_seq)
        VALUES (NEW.lot_id, COALESCE(NEW.container_id, ''), NEW.to_place_id, NEW.to_standing, NEW.quantity, NEW.seq)
        ON CONFLICT (lot_id, container_id, place_id, standing) DO UPDATE SET quantity = balance.quantity + excluded.quantity;
      RETURN NULL;
    END $$`,
  // Everything a characteristic's newest revision says in words, on one row, so that a search reads one short column.
  `characteristic_words() RETURNS trigger LANGUAGE plpgsql AS $$
    DECLARE of text;
    BEGIN
      IF TG_OP = 'DELETE' THEN of := OLD.characteristic_id; ELSE of := NEW.characteristic_id; END IF;
      INSERT INTO characteristic_text (id, latest, words)
        SELECT c.id, r.revision, concat_ws(chr(10), c.code, r.name, COALESCE(r.unit, ''), r.class, r.method, r.instruction, COALESCE(r.acceptable_state, ''),
          COALESCE(json_extract(r.details, '$.typed'), ''), COALESCE(json_extract(r.details, '$.gaugeKind'), ''), COALESCE(json_extract(r.details, '$.responsible'), ''),
          COALESCE(json_extract(r.details, '$.countUnit'), ''), COALESCE(json_extract(r.details, '$.adviceOnFailure'), ''),
          COALESCE((SELECT string_agg(f.value, chr(10)) FROM json_each(r.details, '$.faultCodes') f), ''),
          COALESCE((SELECT string_agg(json_extract(a.value, '$.code') || ' ' || json_extract(a.value, '$.words'), chr(10)) FROM json_each(r.details, '$.answers') a), ''))
        FROM characteristic c JOIN characteristic_revision r ON r.characteristic_id = c.id
        WHERE c.id = of AND r.revision = (SELECT MAX(l.revision) FROM characteristic_revision l WHERE l.characteristic_id = c.id)
        ON CONFLICT (id) DO UPDATE SET latest = excluded.latest, words = excluded.words;
      RETURN NULL;
    END $$`,
]

const appendOnly = ['movement', 'reading', 'audit', 'decision', 'decision_part', 'inspection_line', 'lot_use']

export const guards: readonly string[] = [
  ...appendOnly.flatMap((table) => [
    `${table}_no_update BEFORE UPDATE ON ${table} FOR EACH ROW EXECUTE FUNCTION refuse('${table} is append-only')`,
    `${table}_no_delete BEFORE DELETE ON ${table} FOR EACH ROW EXECUTE FUNCTION refuse('${table} is append-only')`,
    `${table}_no_truncate BEFORE TRUNCATE ON ${table} EXECUTE FUNCTION refuse('${table} is append-only')`,
  ]),
  `hold_no_delete BEFORE DELETE ON hold FOR EACH ROW EXECUTE FUNCTION refuse('a hold is ended, not deleted')`,
  `lot_quantity_stays BEFORE UPDATE OF quantity ON lot FOR EACH ROW EXECUTE FUNCTION refuse('what arrived is not changed')`,
  `movement_allowed BEFORE INSERT ON movement FOR EACH ROW EXECUTE FUNCTION movement_allowed()`,
  `movement_balanced AFTER INSERT ON movement FOR EACH ROW EXECUTE FUNCTION movement_balanced()`,
  `characteristic_words AFTER INSERT OR UPDATE OR DELETE ON characteristic_revision FOR EACH ROW EXECUTE FUNCTION characteristic_words()`,
]
