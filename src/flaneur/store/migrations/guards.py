"""What the database itself guards: journals that only grow, jobs that freeze, and a role that may
do no more than it needs.

Refusals carry SQLSTATE FL001 (the job is signed) or FL002 (the record would be bent);
``api.errors`` puts them into words.
"""

from collections.abc import Collection

APP = "flaneur_app"
OF_A_JOB = ("reading", "bench_record", "capture", "photo", "drive_log", "journal", "report")

# A row that was written by the running transaction itself carries its number in xmin.
_OWN = "xmin = pg_current_xact_id()::xid"

_APPEND_ONLY = ("journal", "report")


def hanging_on_a_job(table: str) -> list[str]:
    """What guards the rows of a table that hang on a job."""
    return [
        f"CREATE TRIGGER {table}_of_a_signed_job BEFORE INSERT OR UPDATE OR DELETE ON {table} FOR "
        "EACH ROW EXECUTE FUNCTION guard_of_job()",
        f"CREATE CONSTRAINT TRIGGER {table}_beside_a_signature AFTER INSERT OR UPDATE OR DELETE ON "
        f"{table} "
        "DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION guard_of_job_at_last()",
    ]


GUARDS = [
    # What is written there stays as it was written.
    *(
        f"""
        CREATE FUNCTION refuse_change_of_{table}() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN RAISE EXCEPTION '{table} is append-only: % refused', TG_OP; END $$
        """
        for table in _APPEND_ONLY
    ),
    *(
        f"CREATE TRIGGER {table}_is_append_only BEFORE UPDATE OR DELETE ON {table} FOR EACH ROW "
        f"EXECUTE FUNCTION refuse_change_of_{table}()"
        for table in _APPEND_ONLY
    ),
    *(
        f"CREATE TRIGGER {table}_is_not_emptied BEFORE TRUNCATE ON {table} FOR EACH STATEMENT "
        f"EXECUTE FUNCTION refuse_change_of_{table}()"
        for table in _APPEND_ONLY
    ),
    # A job: fixed in what it is, its version only rises, and once signed nothing of it changes.
    """
    CREATE FUNCTION guard_job() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF TG_OP = 'DELETE' THEN
        RAISE EXCEPTION 'job % may not be deleted', OLD.number USING ERRCODE = 'FL002';
      END IF;
      IF OLD.signed_at IS NOT NULL THEN
        RAISE EXCEPTION 'job % is signed: nothing of it changes', OLD.number
          USING ERRCODE = 'FL001';
      END IF;
      IF NEW.version < OLD.version THEN
        RAISE EXCEPTION 'job % goes from version % back to %', OLD.number, OLD.version, NEW.version
          USING ERRCODE = 'FL002';
      END IF;
      IF (NEW.id, NEW.number, NEW.unit_id, NEW.book_id)
        IS DISTINCT FROM (OLD.id, OLD.number, OLD.unit_id, OLD.book_id) THEN
        RAISE EXCEPTION 'job % stays the job it is', OLD.number USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$
    """,
    "CREATE TRIGGER job_is_guarded BEFORE UPDATE OR DELETE ON job FOR EACH ROW EXECUTE FUNCTION "
    "guard_job()",
    # What hangs on a job: refused at once when it is signed, and looked at again when the
    # transaction ends, with the job held, so that nobody slips in beside a signature. The
    # transaction that signs (or brings a signed job in) may finish.
    f"""
    CREATE FUNCTION guard_of_job() RETURNS trigger LANGUAGE plpgsql AS $$
    DECLARE
      at_job integer := CASE WHEN TG_OP = 'DELETE' THEN OLD.job_id ELSE NEW.job_id END;
      is_frozen boolean;
    BEGIN
      IF TG_OP = 'UPDATE' AND NEW.job_id <> OLD.job_id THEN
        RAISE EXCEPTION 'a % stays with its job', TG_TABLE_NAME USING ERRCODE = 'FL002';
      END IF;
      SELECT signed_at IS NOT NULL AND NOT {_OWN} INTO is_frozen FROM job WHERE id = at_job;
      IF is_frozen THEN
        RAISE EXCEPTION 'job % is signed: no % of it changes', at_job, TG_TABLE_NAME
          USING ERRCODE = 'FL001';
      END IF;
      RETURN CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END;
    END $$
    """,
    f"""
    CREATE FUNCTION guard_of_job_at_last() RETURNS trigger LANGUAGE plpgsql AS $$
    DECLARE
      at_job integer := CASE WHEN TG_OP = 'DELETE' THEN OLD.job_id ELSE NEW.job_id END;
      is_frozen boolean;
    BEGIN
      SELECT signed_at IS NOT NULL AND NOT {_OWN} INTO is_frozen
        FROM job WHERE id = at_job FOR SHARE;
      IF is_frozen THEN
        RAISE EXCEPTION 'job % was signed meanwhile: no % of it changes', at_job, TG_TABLE_NAME
          USING ERRCODE = 'FL001';
      END IF;
      RETURN NULL;
    END $$
    """,
    *(statement for table in OF_A_JOB for statement in hanging_on_a_job(table)),
    # Samples belong to the transaction that kept their capture.
    f"""
    CREATE FUNCTION guard_block() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF TG_OP <> 'INSERT'
        OR NOT EXISTS (SELECT FROM capture WHERE id = NEW.capture_id AND {_OWN}) THEN
        RAISE EXCEPTION 'samples of a kept capture do not change' USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$
    """,
    "CREATE TRIGGER capture_block_is_kept BEFORE INSERT OR UPDATE OR DELETE ON capture_block FOR "
    "EACH ROW EXECUTE FUNCTION guard_block()",
    # A journal grows by one entry at a time, each following the last. Old times come only with a
    # whole journal that is brought in at once.
    f"""
    CREATE FUNCTION guard_journal() RETURNS trigger LANGUAGE plpgsql AS $$
    DECLARE
      last record;
      is_whole boolean;
    BEGIN
      SELECT version, hash, at INTO last FROM journal WHERE job_id = NEW.job_id
        ORDER BY version DESC LIMIT 1;
      IF NEW.version <> COALESCE(last.version, 1) + 1
        OR NEW.previous <> COALESCE(last.hash, repeat('0', 64)) THEN
        RAISE EXCEPTION 'entry % does not follow the last of its journal', NEW.version
          USING ERRCODE = 'FL002';
      END IF;
      IF NEW.at < last.at THEN
        RAISE EXCEPTION 'entry % is dated before the entry it follows', NEW.version
          USING ERRCODE = 'FL002';
      END IF;
      IF NEW.at > GREATEST(clock_timestamp(), last.at) + interval '1 minute' THEN
        RAISE EXCEPTION 'entry % is dated ahead of its time', NEW.version USING ERRCODE = 'FL002';
      END IF;
      IF NEW.at < now() - interval '10 minutes' THEN
        SELECT imported_at IS NOT NULL INTO is_whole FROM job WHERE id = NEW.job_id AND {_OWN};
        IF is_whole IS NOT TRUE
          OR EXISTS (SELECT FROM journal WHERE job_id = NEW.job_id AND NOT {_OWN}) THEN
          RAISE EXCEPTION 'entry % is back-dated', NEW.version USING ERRCODE = 'FL002';
        END IF;
      END IF;
      RETURN NEW;
    END $$
    """,
    "CREATE TRIGGER journal_follows BEFORE INSERT ON journal FOR EACH ROW EXECUTE FUNCTION "
    "guard_journal()",
]

_RIGHTS = {
    "user_account": (
        "SELECT, INSERT, UPDATE (role, password_hash, pin_hash, is_active, is_password_due)"
    ),
    "account_event": "SELECT, INSERT",
    "sign_in": "SELECT, INSERT, UPDATE",
    "wrong_sign_in": "SELECT, INSERT, DELETE",
    "engine_book": "SELECT, INSERT, UPDATE (is_adopted, adopted_by, adopted_by_id, adopted_at)",
    "shop": "SELECT, INSERT, UPDATE",
    "place": "SELECT, INSERT, UPDATE",
    "stock_line": "SELECT, INSERT, DELETE",
    "supplier": "SELECT, INSERT, DELETE",
    "order_line": "SELECT, INSERT, DELETE",
    "shop_tool": "SELECT, INSERT, DELETE",
    "torque_wrench": "SELECT, INSERT, DELETE",
    "wear_line": "SELECT, INSERT, DELETE",
    "lesson": "SELECT, INSERT, DELETE",
    "course": "SELECT, INSERT, UPDATE, DELETE",
    "unit": "SELECT, INSERT, UPDATE",
    "engine": "SELECT, INSERT, UPDATE",
    "meter_reading": "SELECT, INSERT, UPDATE (struck_by, struck_by_id)",
    "mount": "SELECT, INSERT, UPDATE (until)",
    "job": "SELECT, INSERT, UPDATE",
    "journal": "SELECT, INSERT",
    "report": "SELECT, INSERT",
    "reading": "SELECT, INSERT, UPDATE",
    "bench_record": "SELECT, INSERT, UPDATE (reopened)",
    "bench_event": "SELECT, INSERT, UPDATE (is_struck)",
    "put_in": "SELECT, INSERT",
    "shift": "SELECT, INSERT, UPDATE (taken_by, taken_by_id, taken_at)",
    "second_look": "SELECT, INSERT, UPDATE (answered_by, opinion, answer, answered_at)",
    "follow_up": "SELECT, INSERT, UPDATE (outcome, note, done_by, done_by_id, done_at)",
    "addendum": "SELECT, INSERT",
    "capture": "SELECT, INSERT, UPDATE",
    "capture_block": "SELECT, INSERT, DELETE",
    "samples_let_go": "SELECT, INSERT",
    "photo": "SELECT, INSERT",
    "drive_log": "SELECT, INSERT",
    "incoming": "SELECT, INSERT, UPDATE",
    "incoming_piece": "SELECT, INSERT, DELETE",
    "channel_map": "SELECT, INSERT, UPDATE",
    "trusted_key": "SELECT, INSERT, UPDATE",
    "sent_once": "SELECT, INSERT, UPDATE (answer), DELETE",
    "pulse": "SELECT, INSERT, UPDATE",
}


def grants(tables: Collection[str]) -> list[str]:
    """What the application's role may do with the tables there are: nothing but what is listed
    here, and all it wants with the task queue.
    """
    statements = [f"REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {APP}"]
    statements += [f"GRANT {_RIGHTS[t]} ON {t} TO {APP}" for t in _RIGHTS if t in tables]
    statements.append(f"GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO {APP}")
    statements.append(
        "DO $$ DECLARE t text; BEGIN "
        "FOR t IN SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tablename LIKE "
        "'procrastinate%%' LOOP "
        f"EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %%I TO {APP}', t); END LOOP; END "
        "$$"
    )
    return statements
