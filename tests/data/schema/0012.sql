--

\restrict Fx5TmmWJh6Ffuea0hfkW0U13SglywlBFIY1pDJbNIhfd1FbqTWSXFAGUqAZwBbT


SET statement_timeout = 0;
SET lock_timeout = 0;
SET idle_in_transaction_session_timeout = 0;
SET client_encoding = 'UTF8';
SET standard_conforming_strings = on;
SELECT pg_catalog.set_config('search_path', '', false);
SET check_function_bodies = false;
SET xmloption = content;
SET client_min_messages = warning;
SET row_security = off;


CREATE TYPE public.procrastinate_job_event_type AS ENUM (
    'deferred',
    'started',
    'deferred_for_retry',
    'failed',
    'succeeded',
    'cancelled',
    'abort_requested',
    'aborted',
    'scheduled',
    'retried'
);



CREATE TYPE public.procrastinate_job_status AS ENUM (
    'todo',
    'doing',
    'succeeded',
    'failed',
    'cancelled',
    'aborting',
    'aborted'
);



CREATE TYPE public.procrastinate_job_to_defer_v1 AS (
	queue_name character varying,
	task_name character varying,
	priority integer,
	lock text,
	queueing_lock text,
	args jsonb,
	scheduled_at timestamp with time zone
);



CREATE FUNCTION public.guard_block() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
    BEGIN
      IF TG_OP = 'DELETE' AND OLD.level < 2
        AND EXISTS (SELECT FROM samples_let_go WHERE capture_id = OLD.capture_id) THEN
        RETURN OLD;
      END IF;
      IF TG_OP <> 'INSERT' OR NOT EXISTS (
        SELECT FROM capture
        WHERE id = NEW.capture_id AND xmin = pg_current_xact_id()::xid) THEN
        RAISE EXCEPTION 'samples of a kept capture do not change' USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$;



CREATE FUNCTION public.guard_follow_up() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
    BEGIN
      IF TG_OP = 'DELETE' OR OLD.outcome IS NOT NULL OR NEW.job_id <> OLD.job_id THEN
        RAISE EXCEPTION 'what was due and is answered stays as it is' USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$;



CREATE FUNCTION public.guard_job() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
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
      IF (NEW.id, NEW.number, NEW.unit_id, NEW.engine_id, NEW.book_id)
        IS DISTINCT FROM (OLD.id, OLD.number, OLD.unit_id, OLD.engine_id, OLD.book_id) THEN
        RAISE EXCEPTION 'job % stays the job it is', OLD.number USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$;



CREATE FUNCTION public.guard_journal() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
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
        SELECT imported_at IS NOT NULL INTO is_whole FROM job WHERE id = NEW.job_id AND xmin = pg_current_xact_id()::xid;
        IF is_whole IS NOT TRUE
          OR EXISTS (SELECT FROM journal WHERE job_id = NEW.job_id AND NOT xmin = pg_current_xact_id()::xid) THEN
          RAISE EXCEPTION 'entry % is back-dated', NEW.version USING ERRCODE = 'FL002';
        END IF;
      END IF;
      RETURN NEW;
    END $$;



CREATE FUNCTION public.guard_letting_go() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
    BEGIN
      IF TG_OP = 'INSERT' AND EXISTS (
        SELECT FROM capture JOIN job ON job.id = capture.job_id LEFT JOIN shop ON true
        WHERE capture.id = NEW.capture_id
          AND (capture.xmin = pg_current_xact_id()::xid
            OR job.signed_at < now() - make_interval(months => shop.keep_samples_months))) THEN
        RETURN NEW;
      END IF;
      RAISE EXCEPTION 'samples of capture % are kept', COALESCE(NEW.capture_id, OLD.capture_id)
        USING ERRCODE = 'FL002';
    END $$;



CREATE FUNCTION public.guard_of_job() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
    DECLARE
      at_job integer := CASE WHEN TG_OP = 'DELETE' THEN OLD.job_id ELSE NEW.job_id END;
      is_frozen boolean;
    BEGIN
      IF TG_OP = 'UPDATE' AND NEW.job_id <> OLD.job_id THEN
        RAISE EXCEPTION 'a % stays with its job', TG_TABLE_NAME USING ERRCODE = 'FL002';
      END IF;
      SELECT signed_at IS NOT NULL AND NOT xmin = pg_current_xact_id()::xid INTO is_frozen FROM job WHERE id = at_job;
      IF is_frozen THEN
        RAISE EXCEPTION 'job % is signed: no % of it changes', at_job, TG_TABLE_NAME
          USING ERRCODE = 'FL001';
      END IF;
      RETURN CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END;
    END $$;



CREATE FUNCTION public.guard_of_job_at_last() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
    DECLARE
      at_job integer := CASE WHEN TG_OP = 'DELETE' THEN OLD.job_id ELSE NEW.job_id END;
      is_frozen boolean;
    BEGIN
      SELECT signed_at IS NOT NULL AND NOT xmin = pg_current_xact_id()::xid INTO is_frozen
        FROM job WHERE id = at_job FOR SHARE;
      IF is_frozen THEN
        RAISE EXCEPTION 'job % was signed meanwhile: no % of it changes', at_job, TG_TABLE_NAME
          USING ERRCODE = 'FL001';
      END IF;
      RETURN NULL;
    END $$;



CREATE FUNCTION public.procrastinate_cancel_job_v1(job_id bigint, abort boolean, delete_job boolean) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status = 'todo'
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        IF abort THEN
            UPDATE procrastinate_jobs
            SET abort_requested = true,
                status = CASE status
                    WHEN 'todo' THEN 'cancelled'::procrastinate_job_status ELSE status
                END
            WHERE id = job_id AND status IN ('todo', 'doing')
            RETURNING id INTO _job_id;
        ELSE
            UPDATE procrastinate_jobs
            SET status = 'cancelled'::procrastinate_job_status
            WHERE id = job_id AND status = 'todo'
            RETURNING id INTO _job_id;
        END IF;
    END IF;
    RETURN _job_id;
END;
$$;



CREATE FUNCTION public.procrastinate_defer_jobs_v1(jobs public.procrastinate_job_to_defer_v1[]) RETURNS bigint[]
    LANGUAGE plpgsql
    AS $$
DECLARE
    job_ids bigint[];
BEGIN
    WITH inserted_jobs AS (
        INSERT INTO procrastinate_jobs (queue_name, task_name, priority, lock, queueing_lock, args, scheduled_at)
        SELECT (job).queue_name,
               (job).task_name,
               (job).priority,
               (job).lock,
               (job).queueing_lock,
               (job).args,
               (job).scheduled_at
        FROM unnest(jobs) AS job
        RETURNING id
    )
    SELECT array_agg(id) FROM inserted_jobs INTO job_ids;

    RETURN job_ids;
END;
$$;



CREATE FUNCTION public.procrastinate_defer_periodic_job_v2(_queue_name character varying, _lock character varying, _queueing_lock character varying, _task_name character varying, _priority integer, _periodic_id character varying, _defer_timestamp bigint, _args jsonb) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
	_job_id bigint;
	_defer_id bigint;
BEGIN
    INSERT
        INTO procrastinate_periodic_defers (task_name, periodic_id, defer_timestamp)
        VALUES (_task_name, _periodic_id, _defer_timestamp)
        ON CONFLICT DO NOTHING
        RETURNING id into _defer_id;

    IF _defer_id IS NULL THEN
        RETURN NULL;
    END IF;

    UPDATE procrastinate_periodic_defers
        SET job_id = (
            SELECT COALESCE((
                SELECT unnest(procrastinate_defer_jobs_v1(
                    ARRAY[
                        ROW(
                            _queue_name,
                            _task_name,
                            _priority,
                            _lock,
                            _queueing_lock,
                            _args,
                            NULL::timestamptz
                        )
                    ]::procrastinate_job_to_defer_v1[]
                ))
            ), NULL)
        )
        WHERE id = _defer_id
        RETURNING job_id INTO _job_id;

    DELETE
        FROM procrastinate_periodic_defers
        USING (
            SELECT id
            FROM procrastinate_periodic_defers
            WHERE procrastinate_periodic_defers.task_name = _task_name
            AND procrastinate_periodic_defers.periodic_id = _periodic_id
            AND procrastinate_periodic_defers.defer_timestamp < _defer_timestamp
            ORDER BY id
            FOR UPDATE
        ) to_delete
        WHERE procrastinate_periodic_defers.id = to_delete.id;

    RETURN _job_id;
END;
$$;


SET default_tablespace = '';

SET default_table_access_method = heap;


CREATE TABLE public.procrastinate_jobs (
    id bigint NOT NULL,
    queue_name character varying(128) NOT NULL,
    task_name character varying(128) NOT NULL,
    priority integer DEFAULT 0 NOT NULL,
    lock text,
    queueing_lock text,
    args jsonb DEFAULT '{}'::jsonb NOT NULL,
    status public.procrastinate_job_status DEFAULT 'todo'::public.procrastinate_job_status NOT NULL,
    scheduled_at timestamp with time zone,
    attempts integer DEFAULT 0 NOT NULL,
    abort_requested boolean DEFAULT false NOT NULL,
    worker_id bigint,
    CONSTRAINT check_not_todo_abort_requested CHECK ((NOT ((status = 'todo'::public.procrastinate_job_status) AND (abort_requested = true))))
);



CREATE FUNCTION public.procrastinate_fetch_job_v2(target_queue_names character varying[], p_worker_id bigint) RETURNS public.procrastinate_jobs
    LANGUAGE plpgsql
    AS $$
DECLARE
	found_jobs procrastinate_jobs;
BEGIN
    WITH candidate AS (
        SELECT jobs.*
            FROM procrastinate_jobs AS jobs
            WHERE
                -- reject the job if its lock has earlier or higher priority jobs
                NOT EXISTS (
                    SELECT 1
                        FROM procrastinate_jobs AS other_jobs
                        WHERE
                            jobs.lock IS NOT NULL
                            AND other_jobs.lock = jobs.lock
                            AND (
                                -- job with same lock is already running
                                other_jobs.status = 'doing'
                                OR
                                -- job with same lock is waiting and has higher priority (or same priority but was queued first)
                                (
                                    other_jobs.status = 'todo'
                                    AND (
                                        other_jobs.priority > jobs.priority
                                        OR (
                                        other_jobs.priority = jobs.priority
                                        AND other_jobs.id < jobs.id
                                        )
                                    )
                                )
                            )
                )
                AND jobs.status = 'todo'
                AND (target_queue_names IS NULL OR jobs.queue_name = ANY( target_queue_names ))
                AND (jobs.scheduled_at IS NULL OR jobs.scheduled_at <= now())
            ORDER BY jobs.priority DESC, jobs.id ASC LIMIT 1
            FOR UPDATE OF jobs SKIP LOCKED
    )
    UPDATE procrastinate_jobs
        SET status = 'doing', worker_id = p_worker_id
        FROM candidate
        WHERE procrastinate_jobs.id = candidate.id
        RETURNING procrastinate_jobs.* INTO found_jobs;

 RETURN found_jobs;
END;
$$;



CREATE FUNCTION public.procrastinate_finish_job_v1(job_id bigint, end_status public.procrastinate_job_status, delete_job boolean) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF end_status NOT IN ('succeeded', 'failed', 'aborted') THEN
        RAISE 'End status should be either "succeeded", "failed" or "aborted" (job id: %)', job_id;
    END IF;
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = end_status,
            abort_requested = false,
            attempts = CASE status
                WHEN 'doing' THEN attempts + 1 ELSE attempts
            END
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" or "todo" status (job id: %)', job_id;
    END IF;
END;
$$;



CREATE FUNCTION public.procrastinate_notify_queue_abort_job_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'abort_job_requested', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;



CREATE FUNCTION public.procrastinate_notify_queue_job_inserted_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'job_inserted', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;



CREATE FUNCTION public.procrastinate_prune_stalled_workers_v1(seconds_since_heartbeat double precision) RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    DELETE FROM procrastinate_workers
    WHERE last_heartbeat < NOW() - (seconds_since_heartbeat || 'SECOND')::INTERVAL
    RETURNING procrastinate_workers.id;
END;
$$;



CREATE FUNCTION public.procrastinate_register_worker_v1() RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    INSERT INTO procrastinate_workers DEFAULT VALUES
    RETURNING procrastinate_workers.id;
END;
$$;



CREATE FUNCTION public.procrastinate_retry_job_v1(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
BEGIN
    SELECT abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status = 'doing'
    FOR UPDATE
    INTO _abort_requested;
    IF _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" status (job id: %)', job_id;
    END IF;
END;
$$;



CREATE FUNCTION public.procrastinate_retry_job_v2(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
    _current_status procrastinate_job_status;
BEGIN
    SELECT status, abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status IN ('doing', 'failed')
    FOR UPDATE
    INTO _current_status, _abort_requested;
    IF _current_status = 'doing' AND _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status IN ('doing', 'failed')
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or has an invalid status to retry (job id: %)', job_id;
    END IF;

END;
$$;



CREATE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'abort_requested'::procrastinate_job_event_type);
    RETURN NEW;
END;
$$;



CREATE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type, at)
        VALUES (NEW.id, 'scheduled'::procrastinate_job_event_type, NEW.scheduled_at);

	RETURN NEW;
END;
$$;



CREATE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'deferred'::procrastinate_job_event_type);
	RETURN NEW;
END;
$$;



CREATE FUNCTION public.procrastinate_trigger_function_status_events_update_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    WITH t AS (
        SELECT CASE
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND NEW.status = 'doing'::procrastinate_job_status
                THEN 'started'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'deferred_for_retry'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'failed'::procrastinate_job_status
                THEN 'failed'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'succeeded'::procrastinate_job_status
                THEN 'succeeded'::procrastinate_job_event_type
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND (
                    NEW.status = 'cancelled'::procrastinate_job_status
                    OR NEW.status = 'failed'::procrastinate_job_status
                    OR NEW.status = 'succeeded'::procrastinate_job_status
                )
                THEN 'cancelled'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'aborted'::procrastinate_job_status
                THEN 'aborted'::procrastinate_job_event_type
            WHEN OLD.status = 'failed'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'retried'::procrastinate_job_event_type
            ELSE NULL
        END as event_type
    )
    INSERT INTO procrastinate_events(job_id, type)
        SELECT NEW.id, t.event_type
        FROM t
        WHERE t.event_type IS NOT NULL;
	RETURN NEW;
END;
$$;



CREATE FUNCTION public.procrastinate_unlink_periodic_defers_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_periodic_defers
    SET job_id = NULL
    WHERE job_id = OLD.id;
    RETURN OLD;
END;
$$;



CREATE FUNCTION public.procrastinate_unregister_worker_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    DELETE FROM procrastinate_workers
    WHERE id = worker_id;
END;
$$;



CREATE FUNCTION public.procrastinate_update_heartbeat_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_workers
    SET last_heartbeat = NOW()
    WHERE id = worker_id;
END;
$$;



CREATE FUNCTION public.refuse_change_of_addendum() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
    BEGIN RAISE EXCEPTION 'addendum is append-only: % refused', TG_OP; END $$;



CREATE FUNCTION public.refuse_change_of_journal() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
        BEGIN RAISE EXCEPTION 'journal is append-only: % refused', TG_OP; END $$;



CREATE FUNCTION public.refuse_change_of_report() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
        BEGIN RAISE EXCEPTION 'report is append-only: % refused', TG_OP; END $$;



CREATE TABLE public.account_event (
    id integer NOT NULL,
    user_id integer NOT NULL,
    act character varying(30) NOT NULL,
    role character varying(20),
    at timestamp with time zone NOT NULL,
    by character varying(120),
    by_id integer,
    CONSTRAINT account_event_act_is_known CHECK (((act)::text = ANY ((ARRAY['added'::character varying, 'role_given'::character varying, 'deactivated'::character varying, 'reactivated'::character varying, 'password_reset'::character varying, 'password_changed'::character varying, 'pin_set'::character varying, 'pin_dropped'::character varying])::text[])))
);



CREATE SEQUENCE public.account_event_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.account_event_id_seq OWNED BY public.account_event.id;



CREATE TABLE public.addendum (
    id integer NOT NULL,
    job_id integer NOT NULL,
    place integer NOT NULL,
    text text NOT NULL,
    by character varying(120) NOT NULL,
    by_id integer,
    at timestamp with time zone NOT NULL,
    statement jsonb NOT NULL,
    signature character varying(128) NOT NULL,
    public_key character varying(64) NOT NULL
);



CREATE SEQUENCE public.addendum_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.addendum_id_seq OWNED BY public.addendum.id;



CREATE TABLE public.alembic_version (
    version_num character varying(32) NOT NULL
);



CREATE TABLE public.bench_event (
    id integer NOT NULL,
    job_id integer NOT NULL,
    step character varying(80) NOT NULL,
    answered integer NOT NULL,
    kind character varying(20) NOT NULL,
    item character varying(120) NOT NULL,
    number integer NOT NULL,
    data jsonb NOT NULL,
    by character varying(120) NOT NULL,
    by_id integer,
    at timestamp with time zone NOT NULL,
    is_struck boolean NOT NULL,
    CONSTRAINT bench_event_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['bolt'::character varying, 'timer'::character varying, 'trace'::character varying, 'fitted'::character varying, 'burst'::character varying])::text[])))
);



CREATE SEQUENCE public.bench_event_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.bench_event_id_seq OWNED BY public.bench_event.id;



CREATE TABLE public.bench_record (
    id integer NOT NULL,
    job_id integer NOT NULL,
    step character varying(80) NOT NULL,
    seen jsonb NOT NULL,
    "right" boolean NOT NULL,
    departure character varying(400),
    done_by character varying(120) NOT NULL,
    done_by_id integer,
    done_at timestamp with time zone NOT NULL,
    reopened boolean NOT NULL
);



CREATE SEQUENCE public.bench_record_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.bench_record_id_seq OWNED BY public.bench_record.id;



CREATE TABLE public.capture (
    id integer NOT NULL,
    job_id integer NOT NULL,
    phase character varying(10) NOT NULL,
    source character varying(200) NOT NULL,
    seconds double precision NOT NULL,
    rate_hz double precision NOT NULL,
    rpm double precision NOT NULL,
    taken_by character varying(120) NOT NULL,
    taken_by_id integer,
    taken_at timestamp with time zone NOT NULL,
    quality jsonb NOT NULL,
    notes jsonb NOT NULL,
    correlation jsonb NOT NULL,
    channels jsonb NOT NULL,
    samples integer NOT NULL,
    left_out jsonb NOT NULL,
    angle bytea,
    sha256 character varying(64) NOT NULL,
    incoming_id integer,
    struck character varying(400),
    CONSTRAINT capture_phase_is_known CHECK (((phase)::text = ANY ((ARRAY['before'::character varying, 'after'::character varying])::text[])))
);



CREATE TABLE public.capture_block (
    capture_id integer NOT NULL,
    channel character varying(120) NOT NULL,
    level integer NOT NULL,
    number integer NOT NULL,
    data bytea NOT NULL
);
ALTER TABLE ONLY public.capture_block ALTER COLUMN data SET STORAGE EXTERNAL;



CREATE SEQUENCE public.capture_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.capture_id_seq OWNED BY public.capture.id;



CREATE TABLE public.channel_map (
    signature character varying(64) NOT NULL,
    engine character varying(120) NOT NULL,
    mapping jsonb NOT NULL,
    said_by character varying(120) NOT NULL,
    said_by_id integer,
    said_at timestamp with time zone NOT NULL
);



CREATE TABLE public.course (
    engine_id integer NOT NULL,
    mark character varying(64) NOT NULL,
    ahead jsonb NOT NULL,
    content jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL
);



CREATE TABLE public.drive_log (
    id integer NOT NULL,
    job_id integer NOT NULL,
    source character varying(200) NOT NULL,
    kind character varying(20) NOT NULL,
    text text NOT NULL,
    summary jsonb NOT NULL,
    taken_by character varying(120) NOT NULL,
    taken_by_id integer,
    taken_at timestamp with time zone NOT NULL,
    phase character varying(10) NOT NULL,
    CONSTRAINT drive_log_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['sweep'::character varying, 'log'::character varying])::text[]))),
    CONSTRAINT drive_log_phase_is_known CHECK (((phase)::text = ANY ((ARRAY['before'::character varying, 'after'::character varying])::text[])))
);



CREATE SEQUENCE public.drive_log_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.drive_log_id_seq OWNED BY public.drive_log.id;



CREATE TABLE public.engine (
    id integer NOT NULL,
    number character varying(60) NOT NULL,
    book_id integer NOT NULL,
    meter character varying(4) NOT NULL,
    baseline_deg jsonb NOT NULL,
    baseline_job character varying(40),
    is_retired boolean NOT NULL,
    CONSTRAINT engine_meter_is_known CHECK (((meter)::text = ANY ((ARRAY['h'::character varying, 'km'::character varying])::text[])))
);



CREATE TABLE public.engine_book (
    id integer NOT NULL,
    name character varying(120) NOT NULL,
    revision integer NOT NULL,
    sha256 character varying(64) NOT NULL,
    text text NOT NULL,
    is_adopted boolean NOT NULL,
    came_by character varying(120),
    came_by_id integer,
    came_at timestamp with time zone NOT NULL,
    adopted_by character varying(120),
    adopted_by_id integer,
    adopted_at timestamp with time zone
);



CREATE SEQUENCE public.engine_book_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.engine_book_id_seq OWNED BY public.engine_book.id;



CREATE SEQUENCE public.engine_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.engine_id_seq OWNED BY public.engine.id;



CREATE TABLE public.follow_up (
    id integer NOT NULL,
    job_id integer NOT NULL,
    kind character varying(20) NOT NULL,
    words text NOT NULL,
    due_at timestamp with time zone NOT NULL,
    made_by character varying(120) NOT NULL,
    made_by_id integer,
    made_at timestamp with time zone NOT NULL,
    outcome character varying(20),
    note text NOT NULL,
    done_by character varying(120),
    done_by_id integer,
    done_at timestamp with time zone,
    CONSTRAINT follow_up_done_with_a_time CHECK (((outcome IS NULL) = (done_at IS NULL))),
    CONSTRAINT follow_up_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['cold_start'::character varying, 'remeasure'::character varying])::text[]))),
    CONSTRAINT follow_up_outcome_is_known CHECK (((outcome)::text = ANY ((ARRAY['quiet'::character varying, 'rattles'::character varying, 'done'::character varying, 'dropped'::character varying])::text[])))
);



CREATE SEQUENCE public.follow_up_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.follow_up_id_seq OWNED BY public.follow_up.id;



CREATE TABLE public.incoming (
    id integer NOT NULL,
    job_id integer NOT NULL,
    phase character varying(10) NOT NULL,
    name character varying(200) NOT NULL,
    size bigint NOT NULL,
    state character varying(20) NOT NULL,
    progress double precision NOT NULL,
    refusal jsonb NOT NULL,
    columns jsonb NOT NULL,
    proposal jsonb NOT NULL,
    mapping jsonb NOT NULL,
    claim character varying(36),
    attempts integer NOT NULL,
    taken_by character varying(120) NOT NULL,
    taken_by_id integer,
    taken_at timestamp with time zone NOT NULL,
    capture_id integer,
    CONSTRAINT incoming_phase_is_known CHECK (((phase)::text = ANY ((ARRAY['before'::character varying, 'after'::character varying])::text[]))),
    CONSTRAINT incoming_state_is_known CHECK (((state)::text = ANY ((ARRAY['waiting'::character varying, 'reading'::character varying, 'decoding'::character varying, 'keeping'::character varying, 'asking'::character varying, 'refused'::character varying, 'cancelled'::character varying, 'dismissed'::character varying, 'done'::character varying])::text[])))
);



CREATE SEQUENCE public.incoming_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.incoming_id_seq OWNED BY public.incoming.id;



CREATE TABLE public.incoming_piece (
    incoming_id integer NOT NULL,
    number integer NOT NULL,
    data bytea NOT NULL
);
ALTER TABLE ONLY public.incoming_piece ALTER COLUMN data SET STORAGE EXTERNAL;



CREATE TABLE public.job (
    id integer NOT NULL,
    number character varying(40) NOT NULL,
    unit_id integer NOT NULL,
    book_id integer NOT NULL,
    version integer NOT NULL,
    opened_by character varying(120) NOT NULL,
    opened_by_id integer,
    opened_at timestamp with time zone NOT NULL,
    intake jsonb NOT NULL,
    baseline_deg jsonb NOT NULL,
    scope jsonb NOT NULL,
    plan jsonb,
    bench_started boolean NOT NULL,
    hands jsonb NOT NULL,
    override_reason text,
    released_by character varying(120),
    released_by_id integer,
    left_over text NOT NULL,
    signed_by character varying(120),
    signed_by_id integer,
    signed_at timestamp with time zone,
    signed_at_depot character varying(120),
    imported_by character varying(120),
    imported_by_id integer,
    imported_at timestamp with time zone,
    import_note text NOT NULL,
    engine_id integer NOT NULL,
    ended character varying(20),
    ended_why text,
    comeback_of_id integer,
    CONSTRAINT job_ended_is_known CHECK (((ended)::text = ANY ((ARRAY['left'::character varying, 'no_fault'::character varying, 'refused'::character varying, 'retired'::character varying, 'wrong_unit'::character varying])::text[]))),
    CONSTRAINT job_ended_or_released CHECK (((ended IS NULL) OR (released_by IS NULL))),
    CONSTRAINT job_number_is_plain CHECK (((number)::text ~ '^[A-Za-z0-9][A-Za-z0-9-]*$'::text)),
    CONSTRAINT job_signed_with_a_time CHECK (((signed_by IS NULL) = (signed_at IS NULL))),
    CONSTRAINT job_version_counts CHECK ((version >= 1))
);



CREATE SEQUENCE public.job_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.job_id_seq OWNED BY public.job.id;



CREATE SEQUENCE public.job_number
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



CREATE TABLE public.journal (
    id integer NOT NULL,
    job_id integer NOT NULL,
    version integer NOT NULL,
    at timestamp with time zone NOT NULL,
    by character varying(120) NOT NULL,
    by_id integer,
    kind character varying(40) NOT NULL,
    words text NOT NULL,
    data jsonb NOT NULL,
    reverses integer,
    previous character varying(64) NOT NULL,
    hash character varying(64) NOT NULL,
    CONSTRAINT journal_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['opened'::character varying, 'intake'::character varying, 'reading'::character varying, 'phaser'::character varying, 'struck'::character varying, 'photo'::character varying, 'capture'::character varying, 'capture struck'::character varying, 'left out'::character varying, 'read again'::character varying, 'log'::character varying, 'decided'::character varying, 'scope'::character varying, 'agreed'::character varying, 'go'::character varying, 'bench'::character varying, 'step'::character varying, 'inside'::character varying, 'shift'::character varying, 'second look'::character varying, 'reopened'::character varying, 'hands'::character varying, 'hard stop'::character varying, 'cause'::character varying, 'released'::character varying, 'signed'::character varying, 'undo'::character varying, 'imported'::character varying, 'told'::character varying, 'followed'::character varying, 'ended'::character varying, 'link'::character varying])::text[])))
);



CREATE SEQUENCE public.journal_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.journal_id_seq OWNED BY public.journal.id;



CREATE TABLE public.lesson (
    job_id integer NOT NULL,
    engine_id integer NOT NULL,
    book character varying(120) NOT NULL,
    content jsonb NOT NULL
);



CREATE TABLE public.meter_reading (
    id integer NOT NULL,
    engine_id integer NOT NULL,
    value double precision NOT NULL,
    read_on date NOT NULL,
    is_new_meter boolean NOT NULL,
    by character varying(120) NOT NULL,
    by_id integer,
    struck_by character varying(120),
    struck_by_id integer,
    CONSTRAINT meter_reading_is_a_figure CHECK (((value >= (0)::double precision) AND (value <= (5000000)::double precision)))
);



CREATE SEQUENCE public.meter_reading_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.meter_reading_id_seq OWNED BY public.meter_reading.id;



CREATE TABLE public.mount (
    id integer NOT NULL,
    engine_id integer NOT NULL,
    unit_id integer NOT NULL,
    "position" character varying(40) NOT NULL,
    since timestamp with time zone NOT NULL,
    until timestamp with time zone,
    CONSTRAINT mount_ends_after_it_begins CHECK ((until >= since))
);



CREATE SEQUENCE public.mount_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.mount_id_seq OWNED BY public.mount.id;



CREATE TABLE public.order_line (
    id integer NOT NULL,
    "position" integer NOT NULL,
    item character varying(120) NOT NULL,
    engine character varying(200) NOT NULL,
    count integer NOT NULL,
    supplier character varying(120) NOT NULL,
    ordered_on date NOT NULL,
    due_on date,
    CONSTRAINT order_line_counts CHECK ((count >= 1))
);



CREATE SEQUENCE public.order_line_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.order_line_id_seq OWNED BY public.order_line.id;



CREATE TABLE public.photo (
    id integer NOT NULL,
    job_id integer NOT NULL,
    reading_id integer,
    caption character varying(200) NOT NULL,
    width integer NOT NULL,
    height integer NOT NULL,
    content bytea NOT NULL,
    taken_by character varying(120) NOT NULL,
    taken_by_id integer,
    taken_at timestamp with time zone NOT NULL,
    step character varying(80),
    small bytea
);
ALTER TABLE ONLY public.photo ALTER COLUMN content SET STORAGE EXTERNAL;



CREATE SEQUENCE public.photo_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.photo_id_seq OWNED BY public.photo.id;



CREATE TABLE public.place (
    id integer NOT NULL,
    name character varying(120) NOT NULL,
    is_bay boolean NOT NULL,
    is_retired boolean NOT NULL
);



CREATE SEQUENCE public.place_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.place_id_seq OWNED BY public.place.id;



CREATE TABLE public.procrastinate_events (
    id bigint NOT NULL,
    job_id bigint NOT NULL,
    type public.procrastinate_job_event_type,
    at timestamp with time zone DEFAULT now()
);



CREATE SEQUENCE public.procrastinate_events_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.procrastinate_events_id_seq OWNED BY public.procrastinate_events.id;



CREATE SEQUENCE public.procrastinate_jobs_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.procrastinate_jobs_id_seq OWNED BY public.procrastinate_jobs.id;



CREATE TABLE public.procrastinate_periodic_defers (
    id bigint NOT NULL,
    task_name character varying(128) NOT NULL,
    defer_timestamp bigint,
    job_id bigint,
    periodic_id character varying(128) DEFAULT ''::character varying NOT NULL
);



CREATE SEQUENCE public.procrastinate_periodic_defers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.procrastinate_periodic_defers_id_seq OWNED BY public.procrastinate_periodic_defers.id;



CREATE TABLE public.procrastinate_workers (
    id bigint NOT NULL,
    last_heartbeat timestamp with time zone DEFAULT now() NOT NULL
);



ALTER TABLE public.procrastinate_workers ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.procrastinate_workers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);



CREATE TABLE public.pulse (
    name character varying(20) NOT NULL,
    at timestamp with time zone NOT NULL
);



CREATE TABLE public.put_in (
    id integer NOT NULL,
    job_id integer NOT NULL,
    piece character varying(20) NOT NULL,
    place character varying(120) NOT NULL,
    count integer NOT NULL,
    by character varying(120) NOT NULL,
    by_id integer,
    at timestamp with time zone NOT NULL,
    CONSTRAINT put_in_counts_something CHECK ((count <> 0)),
    CONSTRAINT put_in_piece_is_known CHECK (((piece)::text = ANY ((ARRAY['rag'::character varying, 'pin'::character varying, 'wedge'::character varying, 'holder'::character varying, 'lock'::character varying, 'plug'::character varying, 'magnet'::character varying])::text[])))
);



CREATE SEQUENCE public.put_in_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.put_in_id_seq OWNED BY public.put_in.id;



CREATE TABLE public.reading (
    id integer NOT NULL,
    job_id integer NOT NULL,
    phase character varying(10) NOT NULL,
    kind character varying(20) NOT NULL,
    part character varying(60) NOT NULL,
    value double precision,
    stderr double precision,
    unit character varying(20) NOT NULL,
    words text NOT NULL,
    detail jsonb NOT NULL,
    phaser_state character varying(20) NOT NULL,
    command_deg double precision NOT NULL,
    as_typed character varying(200) NOT NULL,
    instrument character varying(120) NOT NULL,
    capture_id integer,
    scatter_deg double precision,
    cycles integer,
    taken_by character varying(120) NOT NULL,
    taken_by_id integer,
    taken_at timestamp with time zone NOT NULL,
    struck character varying(400),
    CONSTRAINT reading_command_is_an_angle CHECK (((command_deg >= (0)::double precision) AND (command_deg <= (360)::double precision))),
    CONSTRAINT reading_kind_is_known CHECK (((kind)::text = ANY ((ARRAY['cam'::character varying, 'plunger'::character varying, 'lash'::character varying, 'compress'::character varying, 'tool_fit'::character varying, 'links'::character varying, 'mark_miss'::character varying, 'chain_length'::character varying, 'liner'::character varying, 'debris'::character varying, 'endoscope'::character varying, 'noise'::character varying, 'oil'::character varying])::text[]))),
    CONSTRAINT reading_phase_is_known CHECK (((phase)::text = ANY ((ARRAY['before'::character varying, 'after'::character varying])::text[]))),
    CONSTRAINT reading_phaser_state_is_known CHECK (((phaser_state)::text = ANY ((ARRAY['parked'::character varying, 'commanded'::character varying, 'unknown'::character varying, 'none'::character varying])::text[]))),
    CONSTRAINT reading_stderr_is_a_figure CHECK (((stderr >= (0)::double precision) AND (stderr <= ('10000000'::numeric)::double precision))),
    CONSTRAINT reading_value_is_a_figure CHECK (((value >= ('-10000000'::numeric)::double precision) AND (value <= ('10000000'::numeric)::double precision)))
);



CREATE SEQUENCE public.reading_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.reading_id_seq OWNED BY public.reading.id;



CREATE TABLE public.report (
    id integer NOT NULL,
    job_id integer NOT NULL,
    html text NOT NULL,
    pdf bytea NOT NULL,
    sha256 character varying(64) NOT NULL,
    signed_by character varying(120) NOT NULL,
    signed_by_id integer,
    signed_at timestamp with time zone NOT NULL,
    head character varying(64) NOT NULL,
    unit jsonb NOT NULL,
    statement jsonb NOT NULL,
    signature character varying(128) NOT NULL,
    public_key character varying(64) NOT NULL
);



CREATE SEQUENCE public.report_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.report_id_seq OWNED BY public.report.id;



CREATE TABLE public.samples_let_go (
    capture_id integer NOT NULL,
    at timestamp with time zone NOT NULL
);



CREATE TABLE public.second_look (
    id integer NOT NULL,
    job_id integer NOT NULL,
    step character varying(80) NOT NULL,
    question text NOT NULL,
    token character varying(64) NOT NULL,
    asked_by character varying(120) NOT NULL,
    asked_by_id integer,
    asked_at timestamp with time zone NOT NULL,
    until timestamp with time zone NOT NULL,
    answered_by character varying(120),
    opinion character varying(20),
    answer text NOT NULL,
    answered_at timestamp with time zone,
    CONSTRAINT second_look_answered_with_a_time CHECK (((opinion IS NULL) = (answered_at IS NULL))),
    CONSTRAINT second_look_opinion_is_known CHECK (((opinion)::text = ANY ((ARRAY['right'::character varying, 'wrong'::character varying, 'unsure'::character varying])::text[])))
);



CREATE SEQUENCE public.second_look_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.second_look_id_seq OWNED BY public.second_look.id;



CREATE TABLE public.sent_once (
    key character varying(80) NOT NULL,
    person_id integer NOT NULL,
    what character varying(300) NOT NULL,
    body character varying(64) NOT NULL,
    answer text NOT NULL,
    at timestamp with time zone NOT NULL
);



CREATE TABLE public.shift (
    id integer NOT NULL,
    job_id integer NOT NULL,
    given_by character varying(120) NOT NULL,
    given_by_id integer,
    given_at timestamp with time zone NOT NULL,
    note text NOT NULL,
    stands jsonb NOT NULL,
    against jsonb NOT NULL,
    mind jsonb NOT NULL,
    taken_by character varying(120),
    taken_by_id integer,
    taken_at timestamp with time zone,
    CONSTRAINT shift_taken_with_a_time CHECK (((taken_by IS NULL) = (taken_at IS NULL)))
);



CREATE SEQUENCE public.shift_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.shift_id_seq OWNED BY public.shift.id;



CREATE TABLE public.shop (
    id integer NOT NULL,
    name character varying(120) NOT NULL,
    job_prefix character varying(12) NOT NULL,
    currency character varying(12) NOT NULL,
    time_zone character varying(60) NOT NULL,
    rates jsonb,
    bands jsonb,
    keep_samples_months integer,
    CONSTRAINT shop_is_one CHECK ((id = 1)),
    CONSTRAINT shop_keeps_samples_for_a_year CHECK ((keep_samples_months >= 12))
);



CREATE SEQUENCE public.shop_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.shop_id_seq OWNED BY public.shop.id;



CREATE TABLE public.shop_tool (
    id integer NOT NULL,
    "position" integer NOT NULL,
    name character varying(120) NOT NULL,
    whereabouts character varying(20) NOT NULL,
    back_on date,
    note character varying(200) NOT NULL,
    CONSTRAINT shop_tool_whereabouts_is_known CHECK (((whereabouts)::text = ANY ((ARRAY['owned'::character varying, 'hired'::character varying, 'calibration'::character varying, 'lent'::character varying])::text[])))
);



CREATE SEQUENCE public.shop_tool_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.shop_tool_id_seq OWNED BY public.shop_tool.id;



CREATE TABLE public.sign_in (
    token character varying(64) NOT NULL,
    user_id integer NOT NULL,
    address character varying(60) NOT NULL,
    begun_at timestamp with time zone NOT NULL,
    seen_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    ended_by character varying(30),
    CONSTRAINT sign_in_ended_by_is_known CHECK (((ended_by)::text = ANY ((ARRAY['signed_out'::character varying, 'password_changed'::character varying, 'deactivated'::character varying])::text[]))),
    CONSTRAINT sign_in_ended_with_a_time CHECK (((ended_by IS NULL) = (ended_at IS NULL)))
);



CREATE TABLE public.stock_line (
    id integer NOT NULL,
    "position" integer NOT NULL,
    item character varying(120) NOT NULL,
    engine character varying(200) NOT NULL,
    count integer NOT NULL,
    place character varying(200) NOT NULL,
    CONSTRAINT stock_line_counts CHECK ((count >= 0))
);



CREATE SEQUENCE public.stock_line_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.stock_line_id_seq OWNED BY public.stock_line.id;



CREATE TABLE public.supplier (
    id integer NOT NULL,
    "position" integer NOT NULL,
    name character varying(120) NOT NULL,
    days integer,
    note character varying(200) NOT NULL,
    CONSTRAINT supplier_days_count CHECK ((days >= 0))
);



CREATE SEQUENCE public.supplier_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.supplier_id_seq OWNED BY public.supplier.id;



CREATE TABLE public.torque_wrench (
    id integer NOT NULL,
    "position" integer NOT NULL,
    name character varying(120) NOT NULL,
    least_nm double precision NOT NULL,
    most_nm double precision NOT NULL,
    graduation_nm double precision NOT NULL,
    swing_deg double precision,
    calibrated_until date,
    whereabouts character varying(20) NOT NULL,
    CONSTRAINT torque_wrench_has_a_range CHECK ((((0)::double precision < least_nm) AND (least_nm < most_nm))),
    CONSTRAINT torque_wrench_whereabouts_is_known CHECK (((whereabouts)::text = ANY ((ARRAY['owned'::character varying, 'hired'::character varying, 'calibration'::character varying, 'lent'::character varying])::text[])))
);



CREATE SEQUENCE public.torque_wrench_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.torque_wrench_id_seq OWNED BY public.torque_wrench.id;



CREATE TABLE public.trusted_key (
    public_key character varying(64) NOT NULL,
    depot character varying(120) NOT NULL,
    added_by character varying(120) NOT NULL,
    added_by_id integer,
    added_at timestamp with time zone NOT NULL,
    removed_by character varying(120),
    removed_by_id integer,
    removed_at timestamp with time zone,
    CONSTRAINT trusted_key_key_is_hexadecimal CHECK (((public_key)::text ~ '^[0-9a-f]{64}$'::text))
);



CREATE TABLE public.unit (
    id integer NOT NULL,
    tag character varying(60) NOT NULL,
    name character varying(120) NOT NULL,
    kind character varying(60) NOT NULL,
    place character varying(120),
    is_retired boolean NOT NULL
);



CREATE SEQUENCE public.unit_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.unit_id_seq OWNED BY public.unit.id;



CREATE TABLE public.user_account (
    id integer NOT NULL,
    login character varying(60) NOT NULL,
    name character varying(120) NOT NULL,
    role character varying(20) NOT NULL,
    password_hash character varying(200) NOT NULL,
    is_active boolean NOT NULL,
    is_password_due boolean NOT NULL,
    pin_hash character varying(200),
    CONSTRAINT user_account_role_is_known CHECK (((role)::text = ANY ((ARRAY['technician'::character varying, 'lead'::character varying])::text[])))
);



CREATE SEQUENCE public.user_account_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.user_account_id_seq OWNED BY public.user_account.id;



CREATE TABLE public.wear_line (
    id integer NOT NULL,
    "position" integer NOT NULL,
    engine character varying(120) NOT NULL,
    hours double precision NOT NULL,
    part character varying(120) NOT NULL,
    measured double precision,
    plus_minus double precision,
    renewed character varying(4) NOT NULL,
    CONSTRAINT wear_line_renewed_is_known CHECK (((renewed)::text = ANY ((ARRAY['yes'::character varying, 'no'::character varying])::text[]))),
    CONSTRAINT wear_line_says_something CHECK (((measured IS NOT NULL) OR ((renewed)::text = 'yes'::text)))
);



CREATE SEQUENCE public.wear_line_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.wear_line_id_seq OWNED BY public.wear_line.id;



CREATE TABLE public.wrong_sign_in (
    id integer NOT NULL,
    login character varying(60) NOT NULL,
    address character varying(60) NOT NULL,
    at timestamp with time zone NOT NULL
);



CREATE SEQUENCE public.wrong_sign_in_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;



ALTER SEQUENCE public.wrong_sign_in_id_seq OWNED BY public.wrong_sign_in.id;



ALTER TABLE ONLY public.account_event ALTER COLUMN id SET DEFAULT nextval('public.account_event_id_seq'::regclass);



ALTER TABLE ONLY public.addendum ALTER COLUMN id SET DEFAULT nextval('public.addendum_id_seq'::regclass);



ALTER TABLE ONLY public.bench_event ALTER COLUMN id SET DEFAULT nextval('public.bench_event_id_seq'::regclass);



ALTER TABLE ONLY public.bench_record ALTER COLUMN id SET DEFAULT nextval('public.bench_record_id_seq'::regclass);



ALTER TABLE ONLY public.capture ALTER COLUMN id SET DEFAULT nextval('public.capture_id_seq'::regclass);



ALTER TABLE ONLY public.drive_log ALTER COLUMN id SET DEFAULT nextval('public.drive_log_id_seq'::regclass);



ALTER TABLE ONLY public.engine ALTER COLUMN id SET DEFAULT nextval('public.engine_id_seq'::regclass);



ALTER TABLE ONLY public.engine_book ALTER COLUMN id SET DEFAULT nextval('public.engine_book_id_seq'::regclass);



ALTER TABLE ONLY public.follow_up ALTER COLUMN id SET DEFAULT nextval('public.follow_up_id_seq'::regclass);



ALTER TABLE ONLY public.incoming ALTER COLUMN id SET DEFAULT nextval('public.incoming_id_seq'::regclass);



ALTER TABLE ONLY public.job ALTER COLUMN id SET DEFAULT nextval('public.job_id_seq'::regclass);



ALTER TABLE ONLY public.journal ALTER COLUMN id SET DEFAULT nextval('public.journal_id_seq'::regclass);



ALTER TABLE ONLY public.meter_reading ALTER COLUMN id SET DEFAULT nextval('public.meter_reading_id_seq'::regclass);



ALTER TABLE ONLY public.mount ALTER COLUMN id SET DEFAULT nextval('public.mount_id_seq'::regclass);



ALTER TABLE ONLY public.order_line ALTER COLUMN id SET DEFAULT nextval('public.order_line_id_seq'::regclass);



ALTER TABLE ONLY public.photo ALTER COLUMN id SET DEFAULT nextval('public.photo_id_seq'::regclass);



ALTER TABLE ONLY public.place ALTER COLUMN id SET DEFAULT nextval('public.place_id_seq'::regclass);



ALTER TABLE ONLY public.procrastinate_events ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_events_id_seq'::regclass);



ALTER TABLE ONLY public.procrastinate_jobs ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_jobs_id_seq'::regclass);



ALTER TABLE ONLY public.procrastinate_periodic_defers ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_periodic_defers_id_seq'::regclass);



ALTER TABLE ONLY public.put_in ALTER COLUMN id SET DEFAULT nextval('public.put_in_id_seq'::regclass);



ALTER TABLE ONLY public.reading ALTER COLUMN id SET DEFAULT nextval('public.reading_id_seq'::regclass);



ALTER TABLE ONLY public.report ALTER COLUMN id SET DEFAULT nextval('public.report_id_seq'::regclass);



ALTER TABLE ONLY public.second_look ALTER COLUMN id SET DEFAULT nextval('public.second_look_id_seq'::regclass);



ALTER TABLE ONLY public.shift ALTER COLUMN id SET DEFAULT nextval('public.shift_id_seq'::regclass);



ALTER TABLE ONLY public.shop ALTER COLUMN id SET DEFAULT nextval('public.shop_id_seq'::regclass);



ALTER TABLE ONLY public.shop_tool ALTER COLUMN id SET DEFAULT nextval('public.shop_tool_id_seq'::regclass);



ALTER TABLE ONLY public.stock_line ALTER COLUMN id SET DEFAULT nextval('public.stock_line_id_seq'::regclass);



ALTER TABLE ONLY public.supplier ALTER COLUMN id SET DEFAULT nextval('public.supplier_id_seq'::regclass);



ALTER TABLE ONLY public.torque_wrench ALTER COLUMN id SET DEFAULT nextval('public.torque_wrench_id_seq'::regclass);



ALTER TABLE ONLY public.unit ALTER COLUMN id SET DEFAULT nextval('public.unit_id_seq'::regclass);



ALTER TABLE ONLY public.user_account ALTER COLUMN id SET DEFAULT nextval('public.user_account_id_seq'::regclass);



ALTER TABLE ONLY public.wear_line ALTER COLUMN id SET DEFAULT nextval('public.wear_line_id_seq'::regclass);



ALTER TABLE ONLY public.wrong_sign_in ALTER COLUMN id SET DEFAULT nextval('public.wrong_sign_in_id_seq'::regclass);









INSERT INTO public.alembic_version VALUES ('0012');






INSERT INTO public.bench_record VALUES (1, 1, 'op:battery_off', '{"value": [{"ok": true, "ask": "Lamps and horn?", "code": "dead", "kind": "word", "pins": 0, "teeth": null, "typed": "dead", "words": "dead", "contact": null}], "version": 1}', true, NULL, 'Ivo Tarnholt', 1, '2026-11-28 11:39:12.292488+00', false);



INSERT INTO public.capture VALUES (1, 1, 'before', 'simulated engine', 1.2, 20000, 725.3831705550214, 'Ivo Tarnholt', 1, '2026-11-28 11:39:11.921119+00', '{"value": [], "version": 1}', '{"value": [], "version": 1}', '{"value": {"cams": [{"cam": "cam_a_in", "delay": {"told": false, "delay_us": 0.0, "stderr_us": 28.284271247461902}, "edges": [{"is_off": false, "rising": true, "stderr_deg": 0.06442341995806333, "expected_deg": 20.0, "deviation_deg": 0.001452480116370225}, {"is_off": false, "rising": false, "stderr_deg": 0.0561691012487203, "expected_deg": 105.0, "deviation_deg": -0.02054554951268983}, {"is_off": false, "rising": true, "stderr_deg": 0.05921592313679095, "expected_deg": 200.0, "deviation_deg": 0.0024376220954422934}, {"is_off": false, "rising": false, "stderr_deg": 0.07115206594547013, "expected_deg": 240.0, "deviation_deg": -0.006803543663920664}, {"is_off": false, "rising": true, "stderr_deg": 0.06172150663651688, "expected_deg": 330.0, "deviation_deg": -0.013678433248799138}, {"is_off": false, "rising": false, "stderr_deg": 0.056018219701607044, "expected_deg": 460.0, "deviation_deg": -0.001452480116370225}, {"is_off": false, "rising": true, "stderr_deg": 0.06351711517667795, "expected_deg": 610.0, "deviation_deg": 0.006735641643388135}, {"is_off": false, "rising": false, "stderr_deg": 0.055940223064910186, "expected_deg": 640.0, "deviation_deg": 0.005498469365022629}], "moved": null, "speed": null, "cycles": 7, "cycle_s": [0.0503, 0.2154, 0.3804, 0.5455, 0.7108, 0.8763, 1.0423], "settling": null, "cycle_rpm": [724.5, 722.5, 724.1, 722.5, 722.2, 721.5, 718.3], "half_order": {"peak_deg": 589.8673033963042, "stderr_deg": 0.031460338251095885, "amplitude_deg": 0.007120588830455381}, "stderr_deg": 0.12956096085905774, "is_inverted": false, "scatter_deg": 0.13795015859872045, "deviation_deg": -0.013232693798451796, "per_cycle_deg": [0.004205535065097586, 0.04497293881407638, 0.09986716964663228, -0.08884057217807013, -0.058213784897559094, -0.20150290383412936, 0.10688712154408296]}, {"cam": "cam_a_ex", "delay": {"told": false, "delay_us": 0.0, "stderr_us": 28.284271247461902}, "edges": [{"is_off": false, "rising": true, "stderr_deg": 0.03751494557955963, "expected_deg": 48.0, "deviation_deg": 0.0007626551397379444}, {"is_off": false, "rising": false, "stderr_deg": 0.04055007000405398, "expected_deg": 110.0, "deviation_deg": 0.0004100140207583536}, {"is_off": false, "rising": true, "stderr_deg": 0.03803863618303313, "expected_deg": 180.0, "deviation_deg": -0.016877242313626084}, {"is_off": false, "rising": false, "stderr_deg": 0.03248812081009926, "expected_deg": 310.0, "deviation_deg": -0.0065921916201432396}, {"is_off": false, "rising": true, "stderr_deg": 0.03828906104572832, "expected_deg": 400.0, "deviation_deg": -0.0004100140207583536}, {"is_off": false, "rising": false, "stderr_deg": 0.033316026714942014, "expected_deg": 455.0, "deviation_deg": 0.001304301982713696}, {"is_off": false, "rising": true, "stderr_deg": 0.04114057776575305, "expected_deg": 560.0, "deviation_deg": 0.007678794724597537}, {"is_off": false, "rising": false, "stderr_deg": 0.03892240929694988, "expected_deg": 655.0, "deviation_deg": -0.014606079937379945}], "moved": null, "speed": null, "cycles": 7, "cycle_s": [0.0568, 0.2219, 0.3869, 0.552, 0.7173, 0.8829, 1.0488], "settling": null, "cycle_rpm": [714.9, 715.8, 714.9, 714.8, 714.0, 712.2, 710.8], "half_order": {"peak_deg": 531.6026269085286, "stderr_deg": 0.019082536291066845, "amplitude_deg": 0.004881687932827207}, "stderr_deg": 0.12367657285147315, "is_inverted": false, "scatter_deg": 0.0800478360373347, "deviation_deg": 0.0257821362484547, "per_cycle_deg": [0.05143104245941814, 0.03289222244260505, -0.07271495255878384, -0.013125026580092005, 0.0888122532456513, -0.021099303280674806, 0.11428346094328724]}, {"cam": "cam_b_in", "delay": {"told": false, "delay_us": 0.0, "stderr_us": 28.284271247461902}, "edges": [{"is_off": false, "rising": true, "stderr_deg": 0.035025987829379976, "expected_deg": 40.0, "deviation_deg": 0.008306018149596639}, {"is_off": false, "rising": false, "stderr_deg": 0.0146992809870738, "expected_deg": 170.0, "deviation_deg": -0.0004251544778526295}, {"is_off": false, "rising": true, "stderr_deg": 0.022363704179923227, "expected_deg": 260.0, "deviation_deg": 0.0014711759458805318}, {"is_off": false, "rising": false, "stderr_deg": 0.02016559065027355, "expected_deg": 290.0, "deviation_deg": -0.002369982976688334}, {"is_off": false, "rising": true, "stderr_deg": 0.009897617295614197, "expected_deg": 400.0, "deviation_deg": 0.0004251544778526295}, {"is_off": false, "rising": false, "stderr_deg": 0.01846824925159209, "expected_deg": 475.0, "deviation_deg": -0.009280161590595526}, {"is_off": false, "rising": true, "stderr_deg": 0.026686853493177533, "expected_deg": 590.0, "deviation_deg": 0.009974865777166997}, {"is_off": false, "rising": false, "stderr_deg": 0.012156244983379437, "expected_deg": 630.0, "deviation_deg": -0.0007863104283387656}], "moved": null, "speed": null, "cycles": 7, "cycle_s": [0.0549, 0.22, 0.385, 0.5501, 0.7155, 0.881, 1.0469], "settling": null, "cycle_rpm": [714.7, 715.1, 715.0, 714.9, 713.4, 711.8, 711.0], "half_order": {"peak_deg": 26.346317589321817, "stderr_deg": 0.010905854845731373, "amplitude_deg": 0.005069789287324667}, "stderr_deg": 0.12736775428851968, "is_inverted": false, "scatter_deg": 0.03964504081041716, "deviation_deg": -0.012305171562484134, "per_cycle_deg": [-0.11972092662867662, 0.06774241005385424, 0.07502243966882678, -0.05397115320464996, -0.027230939518951072, -0.03411260487482433, -0.013201287940040994]}, {"cam": "cam_b_ex", "delay": {"told": false, "delay_us": 0.0, "stderr_us": 28.284271247461902}, "edges": [{"is_off": false, "rising": true, "stderr_deg": 0.0361255028881021, "expected_deg": 10.0, "deviation_deg": -0.0020362183863653627}, {"is_off": false, "rising": false, "stderr_deg": 0.019503976996181217, "expected_deg": 50.0, "deviation_deg": 0.004112043005761734}, {"is_off": false, "rising": true, "stderr_deg": 0.017284088806933606, "expected_deg": 150.0, "deviation_deg": 0.012178149840792685}, {"is_off": false, "rising": false, "stderr_deg": 0.022278140836874266, "expected_deg": 245.0, "deviation_deg": -0.0017813165213738102}, {"is_off": false, "rising": true, "stderr_deg": 0.01992033296728674, "expected_deg": 350.0, "deviation_deg": -0.005402144263143782}, {"is_off": false, "rising": false, "stderr_deg": 0.02079921908903472, "expected_deg": 380.0, "deviation_deg": 0.021035998478055262}, {"is_off": false, "rising": true, "stderr_deg": 0.03617637655130534, "expected_deg": 480.0, "deviation_deg": -0.002995982224092586}, {"is_off": false, "rising": false, "stderr_deg": 0.024205948273246514, "expected_deg": 610.0, "deviation_deg": 0.0017813165213738102}], "moved": null, "speed": null, "cycles": 7, "cycle_s": [0.048, 0.2131, 0.3781, 0.5433, 0.7085, 0.8741, 1.04], "settling": null, "cycle_rpm": [730.8, 729.0, 729.7, 728.5, 727.6, 726.5, 726.2], "half_order": {"peak_deg": 244.51873893914015, "stderr_deg": 0.013056503376564652, "amplitude_deg": 0.002718917285270104}, "stderr_deg": 0.12855029139868088, "is_inverted": false, "scatter_deg": 0.049818202357458194, "deviation_deg": 0.09543498296110305, "per_cycle_deg": [-0.03954506687039078, 0.07553215680842067, 0.0653559697167116, 0.22855691002722806, 0.1621082433307669, 0.06503583585138362, 0.10913407395226135]}], "rest": null, "crank": {"turns": 14, "bad_turns": 0}, "version": 1, "fingerprint": {"turns": 14, "is_clear": false, "error_deg": [0.0024, -0.0021, -0.0011, 0.0014, 0.0009, -0.0012, -0.001, 0.002, -0.0005, -0.0011, 0.0008, 0.0003, -0.0003, -0.0002, 0.0003, -0.0003, 0.0001, 0.0017, -0.0047, 0.0052, -0.0019, -0.0011, 0.0005, 0.0014, -0.0006, -0.0011, -0.0005, 0.0047, -0.0057, 0.0022, 0.001, -0.0009, -0.0002, -0.0004, 0.0013, -0.0004, -0.0013, 0.0018, -0.0009, 0.0004, -0.0007, 0.0012, -0.0011, 0.0004, 0.0003, -0.0002, -0.0005, 0.0008, 0.0, -0.0007, 0.0002, 0.0005, 0.0, -0.0009, 0.0002, 0.001, -0.0002, -0.001], "stderr_deg": 0.0022561485980284375}, "cycle_offset_deg": 360.0}, "version": 1}', '{"value": ["crank", "cam_a_in", "cam_a_ex", "cam_b_in", "cam_b_ex"], "version": 1}', 24000, '{"value": [], "version": 1}', '\x504b03042d000000080000002100b2b0bf10ffffffffffffffff0900140074696d65732e6e707901001000d81a00000000000031190000000000009d57f93b15ded70d95a148973e2484928a84a4084bc606a509d120854a29634528929490a1884a9953890c993265c890799e2fee752fee8824caf7beffc27b7ed9cf5e67efb5f6799eb3cf1079d4fcc8312bae65b796dd55b0b377bbe4aaa025a3a0edb057414946c1e1a6abbbabed0d9b9bae76f6ff871bdb5e77b3e7e06e576c9ded39fed6bdeabb94b629c9f8c8fcbf87807389cce68d8ada10f53ee331b1fa3c362aa5bcb8e7e5884409b3e6861957ac533dd8b92af90ecca582afa91ef4859c95b1c4de5f7ea83b4c7e7cbc2c00cedfcb87bf073dc20d2562fcbfa34f205340f12b24844098eda32ddf1586e0f20f5f738e8623de6485c9c89708dcf723addb251e05a92ded51eebecf314c3991684c790113ad53fb8a4ec620230ff5dc652f219c7c2c3564471c629e2d0d2c7ffd0a39ddc5c2ef56bd4169ed2f9dd35ef1b03594cf8a757b0bbb8895834fb7bdc3ef821b7b4f0cbe83b9a3a19b424402240e327fea1b2622b2e7fe21eb5f89488def3a72353509836dca86c6a793f1f1fef9b76afc29b0f07cb4c3ba30050ba73f9eb5be9e8a342ab7f9a2741a828422be08b7a681b5d63ea721f03db276894a95ec4b8783d2c326023b1dd551d79374de7fc05c4ff8d9f80b1fe1a2bd5b5c4cfc136eb690168e367d42dbd5bcded2871918245d71e4def7190bb502366b3e64e245b9452af7f22c9c7cf35a39fb6c16cc061c5277e766e169e8baa2e7825f303ba7fa50cae10b5435db347b4abee085d017e345b16cdcb3cc301876c9c60fa1aab9defa6ca8db64dc6fdf9203fef08b994cbf1c745fa56a7b0ce4e0f8fbded5929ab9483f1b5acc88ca8586e63d9500662e12556a77661ccec3338f238a9f53f2a0dcf6375599eb2bb6cc266bfdb3fe8a0771d3f19772be62c7da03d5fe82f9e8dedb89c30ef9b8b310123454928ffc536985566205f0e9f4dcc0ed5c80841bcfe7167e14c049c0ad435cae10ba3b886ba5bd0b91cff090d6ec2c84fadb840203d52204088e2ec53f2d426dee31aa06a508e56f4e53960c8a4138a6d64b8c2f86aabcdd95dc8562b002fabe2db3fc8607ccc9233359dff0d6256683f3ea125c964911bcea50823b6bca2a779495a0bcea7298d2fa52acdde9e8d4e6528afc18c7d51e75a5381f7cb0e8c9da32a8ce8fc85275caa072d2e1a287631982ce379375a2cb90af3cd6215d59065fcf84edf6ac32186f6b12e9962ec7fc5892b18769392ec632870f7b95a36140ffd1feb47214f07b1dd5ee2c87829de1914dcb2bd05195d1d7a85a81aeedfc274d6c2ad0fc395cee26b902676269817384efb87a3fe2bff3f88eece55be553af7d47b17247d662f477cc15382698567ec7a7e9cb3925ccef5831a778f1995425f8a7647ffa1faac4ef536a52e9b72b41abf25a2f905c09a38f64b7afad95a0c655de7cbcac0a84923ddf6e2a57e17abb77b9d5d92a64b9649fd27d5205614bf735d4af55b8754174ad07a90ad81423164ea846b8ad537f22aa71f8aab289d2f56a145ff1912b8ea9c6663fe32491aa6af8365f2a3ac9aa86cf9da359afa46a602f5991cc3c5803c10dfb1d5d6ed540eecaf6db1b136b106bf94c7eb0a906f17fe3bbb6fcad41b5eef706f7ed3ff07a61cdf2df963f7026fef154e9c31f50d4cab3799bfd03eba35494ef107f403935ea9cf19a5accefe6339fd1ae859ca29fa983632d78a797b89ca36be1ecce8d2b95b5d01adcf0671dab1695ce2e9eee5275a87b6b61d07ab00e1585b27b96ddaac37d19a9b33b13ea9026b775ab67631d46b3d4f987fed42123cd39ca55a11e2f0eff28b878aa1e73fff2676dfcea11f370e6c0cf8c7a485ef08b3edb5f8f356fd55e8a0834a036afb5627c4f03587a1b64bfd83760529996ed1ed9803f5a1b3f71953740205a9bc795de0087eaa55a718f9f203927dd0d7bf713165a6384b19f3f71734af299c89f9f0874e78f3ebca511d5e23bf6bd38d188bb338e664bbe8d90a953c9cffdd0888e71fac0e5ee4698cb5407c5ac6882bcee26df71b5261c5edb31e97a81638532c277873621745b59d0ba628e5f3ef3e517b509bc8496f3c455cdd898e875bd48ae1983ef2eeb78683643eac49311ee63cd98bef4ed92bf4333b2ba1a9d7abd9b61577be0f97f91cdb01f3692d17bdf8c36a5606fdbd266747bb8aef6eb6886e3d3cb8d5993cd3890f4efe538570ba243e23c0e89b7205328c0b740b90574d2bb9c93462d381f7f75d9d299169c8ad9365aebda8201be48f182c72d382d1be89dfab605c6a946fa095f5b405ca19df9acb10587c93931d7492db098ffeabe77b105860329eb1a09ad203468f89edcd60afa57219174b4429fbc6e7cc6bc15c2865f1614afb72235e37492957f2bca19fafc0f625a7143eb875d7e462ba0733264b6b215f98a2e46da7dad08f00aacaf67b5c24c25ced28caf0dbe15d98aeb37b6213a55daefd7ee36886c97191d336d03817ce34fefa536e83faf2e69f16a439d886e7579781b3e9c2e107e9bd6068b86379976a56de8bfd5f980c8dd0ecfe6784dd9f5ed288a9add65bdb31dfbf4459ff919b5a33ce184dec733ed30138d9ce875690797ef660df9a076bc70646cb8f7a61d0baf9df6b172daf16d3e522aa4be1d273e354c1e1969c7f0016f96c47c3b84338cb72c13ee40ac608ffdd2960e0c3e62df9cd6e900e1cfce55fda73af0546dd8f6f3358e4d61673af877e0e0264b2db1971dd0dcda1772e773078a767c248d557560feab85d98efe0e3c8abe4bb66277e0e587a7f7eff275c2ae2d243d4eba93d37f02f395ea9d501a49f9c63ed489834a3eb9876c3b11d5b046adea76279c97590f998476e2728fbc006f7227f46f2ccaf71475c2f842c0e1e2d64e349cbc1c9c4aedc46a8ddae6e8655df07b3973c547ac0bbef7cd134d94bbb0d34c62db9c611722ae99e8459ce942f47caaff824b17644ebdcf3a1dd485f1d9c284d76fbac0f3f8f9c2f79c2e884630dcfaebbae0345ba73c3ddc0557db752592735dd8cd13af7046b01be3dd3abab19bbab1f2b4d4fb155add503bcefaf7ee58370e54f6c71a5cee861c53236c856f378cd6837b2caa1b735ad3760d1fbaf168d14ea1a4a21b37bee43926f474232bdaf39b13b31b19239fd595797be09c1b921878a807b765c75d0b2ff4e0bdd4a14af2ad1eecfbcb95ca15d203d622b64826f620f09861b861410f1edbcf7ef269ea41de7e11461ba907651f7f691a2cf6e0edbe7fff35137a71ee81b7cdad6dbd48d922547748af17ae16e96dbb2c7bb1d6f2c513f91bbde04d626fffef612fa4791f5f5b8ceb456be938a1f54b2f3e58dc0808acedc5b1f6b0d90dc3bdd8621015fbee572f089527f57904fbf04868e0a9eea63ed83a3bef70d0ec43905b43f513b33ea8adad3bfbc1be0ff1d97c12bd77fb602572ab583aa20f4371db827cd3fa90f6cf5c9a54d2878a149bd6d08e3e887f8a79b267aa0fae2c962d3f4f3f8a7d054267d7f783246d1c4057e947bcf0912d54937e24ffdd39d476be1f53534312f91efd382228fee0c1d37ee478f42ddf9ad80f911ec589d705fd5068540ce66deec7d5c9a711e7c9fd088f08f40d5fec87b0fc56b77cc2008ea451fe91b60e807b7b9f9e2806705bd0aad8cc7c0055dda5ac2fd706706029f0ab86ff00147cfc965a6206a02b28bd27f0f3001602f412ce570f80a975eafdf18101bcfbaf50df6c66008a0d6fbc8eac1a8492a1fb7103b94158244424c9680e22634c958f663688fae799f99e918378189779a3e1fd20c48f5f715d5636085345b2886ae720745f6e3f6b363508de4d06868fb887e09255b6ad567c08973e10cd94770e61ef616dee78a321d4e7cfcb199f1d829e4ca6fabceb1076dfcdadaf7f3c841cd96be3dfde0e61fdf636c592af4378f7f1ee99ccc62188d9f078c59386c0376b3aeeb938844c45719544fe61f4dc9d3d322b3a8c84acde7e359961d8a6bfd4b0551c0639e88377a0c630029b0f1924ec1f4678ea545bb6e930985483eb5596c330ddacae42bc388c89c9eeb37f9d86e154abc425ef390c1d674bc2c58061a81466f2bd0fe3f0a826fde58b1b86f0a59c41f79461ac5d498da0640d2376742ee1d2b761504bb7a1ef074727e6c503d3f661a498aff4cc1f1a46f1b8e113e1c9615c6785999cff358ccf2eacd7b15c4414def77adfb09a0897aa49be093122749e8f3ff8274744b57ef43d2165221ecd1cfc23a549c48d42fa197543228e1551761e3523a26c5eb2cdd39a08f755be1bbeda13c152fb90f9c79988e464ae8fe6de4464acdeec5afe888830dd57a3bb2289f86db2a22bed0d11efe768bb64d3397c3d0747a27289d0bf65757ba98c0822ffacac79031184a1c641513a1112a1cfef69cc13c1f375a5f081e523689b09f965bd66047f9d341e5f951881633a41c2477e04c376a5aeb12a23287b6f48abda3782d4c1b899e5262378fc6c2af7c08911b0b7dc7b9d7a6e0437d675d5085d1dc199bb817dfeee2360ec4d0afa776f0483355ce5b782474058c90ca6bf18818ab4399f4dc208bc3e199f2cff340261ee852cfe8211c458a6861eab1c817a8232efbda611106bb506e27b4770a16bf9ef22d2088c524cdb9b982348efaf228d2f8ce06d4098c60ade513cba9776499e308ade0579b3a352a308d306256ceb28e7bc1969eddd350adaa4334317a3203b7a1cfc74681409a53795365b8c62f080185f92ed2834de71296f761a45dcd1f0bbb1774639efa59e74a18051bc924cdcee1e360a6ed76d572a6247e1d326522f98328a5f7a1ed6da59a3d8cc22265d2d1e45f1f3d0078f6a465119e92a13df3a8afa513fdad78151841cd513e9a48c227e5fa8e3afe9513ca43b0c6d5f1a855e6fa8e80d81313086de1c2b5b3786ed85a56152b263b8f047ad2144690c62df66eef3ed1d8360df61d110833144a6d4ff14361bc3a2b488e953eb319c392eb79fcb610cd969a4fc8b2e63b8f5b3224b33720ceff6877d38fb660c6966caf73ddf8f61dc7fbdf0f39c3190b85f1fcd2a1dc39166c1134d756370d15daf3ddbc1e1dd3cfb6013710cfb9d4c1aae4d8d415d6b70f7d7b931347f333716e721e1ae7d5d57b01009c80f3eb7428204e3fa199b7bf2247ca375f473ab92c04d119bb8ab4d42b2ef27f29409091dc3c3fa674e92907ba32ef9c37912e216342e51ae92b0c9ca60bfa40709abf3e4340edd27e1d08dbb872e0593a04c5251f2794142c9d9cf3e91ef48c8bea3e198fe9104a953c6372abf9290a1ed9bb85841c289dca5cf5a8d2430d50c4a837b3879c93b7a46c64860883bb41f639290563313fd638104958d7665fabc64e4ddf95158412023b149c8565b9a0c578966cdf7dbc820cd08f5afda4d86baeda6245b3d3214f73bbf8e3d4cc6f2050bd19f16643c3b70f9eeb42d190a65be64612732feacb43d277f878c7b628fafef794086fedb3bbbcc4239fc739455575f92818f3cd2314964c42d236cedf94c460ff15ee5c622326c54efb8ddad2683503ff884da4246a74f4bb8cd001983d43bc45e0aa79ea86babac66c8288b361afcb94446c96899a9deaa71dc242c4a27ff370e7f9e989d17f68ec3ef905a6f80c138d4ccb7eabf3b3a8eb5e1fc890556e3c8ddee1dd764370eb68d412ae9e6381c97f8e3f9ef72f093724eea819c38864db57bf838c4d7e7ca14bf1a8786bf9da74cda385e8c448585658f234873719eb7741cab2eceb5f9d78d63f2c74d1a77e738a23f6db5f4218ee3c4e92bfecca9713c8e8c903bfd7b1c2a7cc7ffa6f250a0a87ee1134d8882eca99a4fd2121434fad7881e96a7607dfbe353d7553878869f40e03e0acaef38abbe36a640c3e2f5c1c2e3144e1f195dea3b4b816da343dada2b14147df01138e646c10b858f47d27d2930ea9c3bc3ff8482dd449d37b79f5310e31bd5f7eb2d05c33aeee2de1f3971f1caf9dcf9149ccab0eeb8f79dc2b9a7e542e61a29e8e35b9770a1970229bbba922f240a1872ef2ef2b028708f8833dfbd4801e96653d2655e2a86b5df5c09265091f76fdbca34292a186b8a68655ba9f01c2b3b3ab48b0ae679e3310150c15de645303a44458afc8ff640732ada4dd6faf75fa0a27f32ea8fc9752aace68f1d2cb94d85ab8eb7b3f6032aec6de3ce948652317d286ecc20960abb9decd6ca642ac25984dd3a591cbbb734f87d311587f5f8724207a9408ee4600e958a0cad06b3ce192a3a8fefcbfbbd4485f2718d78b1551350e79bafd0fa6f020a5d9bbd2fca4e60c378f2af174a13589ff418c43d1330d4fc37ad613081153fa39b5f1d9d805a87c2a935d61328b0ffbc26d47e028b49626aa22e13d828bc9aefb537675eab64403a68023b1edbd73c8f9c80e01dffb1853713a0251c773e963e81e2ace4de57b913f875f925a3ae6c02fa41dea97fea2710c9beba6553d7044efe3ad7ab353281cd1429a6396d02edba25c3377e4f20ecf44fdde73c93b8f6a8766b8bd0243efdf5915d2b31898d03790f1de52721f03df7729dca24ecfffc2cd2d19e44ab9df7ce7c9349c09cbb5ff3e4246eaa9e8d2d3d3f89e56b1a24f7394e626a87fdeb2f1e9330d9549b22e23789b40ab3ed764f279119efb3f24bf424681134b1a1844978e02a953f63129ffd32b8b6174c42e749479a71e5243e9ebc5a76be691257370b6cf4ec9d84535d0df3356912ae8d165a4d4c8eceae954a228b933025ac7966cf3b85eb412ac1158429989d8e7056919e42eedad49c4fdba6405f73e3f6cedd53c88b633fc9d69b829d4d6d9e8ae914a42d4a6c922ca7506f5432c073690ae57287970d064c6176407d3fcfb329a8ae7844da1837058595ae4dda2953f0f9ed196c9d3585dd4f76297b154fa161fd5fff77355338dfc91eaf6f9dc2c39d2b532406a73025af9764479d82bc432eb366660a26b1c5b35acb68e8df609052b88a869900eebd10e3f87b9fb2becbd170f2f5452703651a848c0ff21669d2d0c8d7dfbcd98806eb2955957bc768b8d2d264567f86068265a725cf651a64fec658ed70a5c170fb7f5b2c7c6818bc296f7c3b8886077fbf364647d230fabd5d3de70d0de13df37a83ef69b02284f34be5d240d1d1ea38574643f5fe9b99dfea39f9bea64f14ba68205b9809c78dd0f02dfa55b0349d86ed4f068353e669387565a95271051de7d2ffedcf10a683f0d9ff92a2241d3655bb1ebe50a0e3c0f5974ef36a748cb6741999ead2a149a3e8071da4a330fbd4a682537444978a478ed9d0f1f7576e9ec0353ae77fabe2a6708b0eb592b3cc437e7498fcd132f57e4a073d32fd6471341ddb18991dcb13397199863ce732e8687c23a0585f4047fcf8865cc32a8eeec39055b5cd7404b26df65af5d3512998eb3c314ee7ec6b313997693a0ced7fdf62fca343ee777d95ad0003cfb8ac548e2b31c07d297fce7b0f83a317689ba8cfe0d4619d517b8481cb7c66e2ccd30c88c6870c88d931703222f6c0fe9b0cec8b37253cf06240d9ad684bed4306849dd2d414c3197074efd18c7bc5c00acd2f25a2690cf4c4b767446733f0ca62bfb654290362dbf452d2ea189838f2b55ba59381a73e66b51f890c8c6e3a5eb581c640c535b3398fdf0cdc2ead9c20733131307a718f1f2f136547275c360832712ea0482e93c0043bd8f3859e38135b047efc6b946242cde2e5f70b9b9888358a729edfca84d72603fde7ca4c3467cf7ed15267a2f2f165779226137e245dfd5830a1271e76c0d2888938e3dbf26287995856b0ec51df31267c436cdbdf5a30315bfaec99dd5926fa893a2b642f3291f17617a3f332134abbec34fd9c98f8c8f82eb3dd8d09dda83cabaa3b4cb4fdfe1874de9789b02f96daac074c2c28c5a8f83d66e2b14199d39a3026d021e11a1fc544b64b40b9462c13bf5bf42eb6c533a17871b9ad4732134789e095fbc0844b2665a9339309eba7a1cb23f3988812335f7ea2980951cfe64cd10a260ece2bd677d53041d25da4c7fe64c26482686ad1c6a99feb61dcea1e2674d43fbf58a2324137f9dbfc9cc184a6ca4f1da559260a1ab59e17ff61e28282b3a8e932166cdc3ca2fa57b09075585ed16d150bc9a606b7086b59d8b2f9cf959cff38be6ed8565b4916b4d6454b88c9b130b7d5614f87020b3aa10b3c913b58303fb88e60b58b1397f1396ba3260bdf12483263ba2c5c69ef5c9b68c842f665b1d7d687589817bf68c9778c85bd130dab72cc397a1e657e27ceb060b4aee230fd020b12e5fbf8fd1c58b00df87e8e709d85826b5eef925d587025ecf9a37d9b85dd5ec3ac566f16e8dff636b9f8b3b06fbac56b7d100ba57f06eed485b030fa6be0ad7f240b69f50e117a2f5910dbd436bd3c9e854f2102b13f92589069766b0d4f67c1d8a7f283552627dfc55c55328f050bd9dacece22167e8b34ba0796b3f0e1d22b49951a8e7e6462447b030b8eb754cfdc6c656151e995d98a6e0e5fe889f5af0658a8d970b540759485ebeb8a7cab282c04fad0bf5fa0b3d0daa81ec83dc3425f757367fa3c0b8205efacce2cb14031347eb06e051b7309236f3a04d8b09a890f7d23ccc69e2bfb6d2effc746bed3e9586549363ec8db3f999565a3e267ae44be021b6fac27d6b9ed6043b836c2dd43970d9e1d1b2d440cd9b0ae9560a71e64e3003391a66bc6866460d0b9ce536c04c5fee072b466a3e7508e0ecf05361ad9e979e9f66c889003338e5d63e3da099fc4256736949405a9f9b7d8f03aeebedacb9b8de57a34affdfe6c101d7b140483d878457b3ede1ac2c6c3e5cfe65f44b22111db1e69f5928d5449de3d8478364625155c6b92d898175c5bea9ecec6ce16695e4226675db6fa6399b96c883e8d553629e2e09f05fe7697b111c3d317e054cd867ecec5a9e50d1c1d8b6b91af5b38fad74a57e974b1715f284796d4cf8693a4905ccc081b9b137f479851d810542be35a436763c0c2e94eeb341b4d96ab09d1f36cc4f3a7845e586283b7a14376eb8a691c591012a3084ca363e4c9ceb7c2d3b8a228126ef6df34cc67b6ddffbd611a32fb922fbe929dc6c706c5b3ea0ad37030cb6ca9519a4621ab50f39cda34fe07504b03042d000000080000002100d1a74ba1ffffffffffffffff0900140074686574612e6e707901001000d81a000000000000a1050000000000009dcff16b9c771d07f07304394618870409a3c88384354a7e0835c83142394a368ead9663a6e5ea427bed92ee9cb13dd358cf2e9b8f33d673c6797651cf19eb39b379ce38cf2d4890200f12e4902087040912e4902041821c12e490206e3e2fff01bfbfbc783fefef87cff37df9dcf98fe52ebe27712bf1ecc9e9999b4fcd9d7c3838397e2d7d72243879edc6dcfcdc95eb976fcc4dcfbcfbfdd12bb33767def97eb378a534f34e1e4e8f7d64e44323c173c1ff7dee4fbc7ba262f45f13cc3c1d1b5e8b8d66f4cc4ceb9fd25fd53373455fe065fd25794a7e52be28e7e50bf279f9e3f213724e3ec7c799e5233cc3d34cf3148739c8ff9dc18c9ea798e6699ee123ccf2719ecbf85ff9bc7c41cecb17e527e529f9927c9985d8cc15fdd5d888e153fa69fd8c9ee135fdd3faa29ee127f5cfe83fa56738abffb4feba9ee18dd8a024b3c3cc6762eb4cccc5161831b8699e1d66e6cd33f159f38c18dc32cf0e339f33cf44d93c23069f37cf0e33b7cd337ad6fd05f7d961e639f79978de3e460cbe609e1d06616c8e219bec30f545fb58629d6d265e881d65815546ec32f892fd0cd96487a945fb59629d6d26be6c3f0bac326297c11dfb19b2c90e535fb19f25d6d966a2623f0bac32f8aa7d0cd96487a917ed638975b699f89a7d2cb0ca885d064bf63364931da6be6e3f4bacb3cdc44bf6b3c02a2376197cc37e866cb2c364d57da6996391216b6cb2c50e7b4c7d33769819e6596285756eb0cd038ede8dcdb2c032ab6c30e22ebb4cbeecbd4c33c72243d6d8648b1df6985af65e6698678915d6b9c1360f98f856ec20479965816556d960c45d7699fc766cc034732c32648d4db6d8618fa9efc40e33c33c4bacb0cd03266adecb516659609955361871975d26bfebbd4c33c72243d6d8648b1df6987ac57b99619e255658e706db3c60e27bb1831c659605965965831177d965722536609a391619b2c6265becb0c7d4f76387596285756eb0cd0326ee792f479965816556d960c45d7699fc81f732cd1c8b0c5963932d76d863b21e3bc080234c7382394eb1c879865c628dab6c72932deeb0c343f6d8f7c3d8144f709863ccf02cf39c6685cbac738d1bdc629b7b3ce01113afc6f67390431ce538b39c6481b32c739155aeb0c17546dce62ef7d9e531933f8a1d60c011a639c11ca758e43c432eb1c65536b9c91677d8e1217bec5b8d4df1048739c63ca759e2022b5c669d6bdce016dbdce3018f98782db69f831ce228c799e5240b9c65998bac72850dae33e23677b9cf2e8f997c3d7680014798e604739c6291f30cb9c41a57d9e4265bdc618787ecb1efc7b1c31c63866799e7344b5c6085cbac738d1bdc629b7b3ce011138dd87e0e7288a31c6796932c7096652eb2ca1536b8ce88dbdce53ebb3c66f227b1030c38c2342798e3148b9c67c825d6b8ca2637d9e20e7bec7b2336c5131ce618333ccb3ca759e2022b5c669d6bdce016dbdce3018f98f8696c3f0739c4518e33cb491638cb321759e50a1b5c67c46dee729f5d1e33b9163bc080234c7382394eb1c879865c628dab6c71871d1eb2c7be9fc5a67882c31c63866799e7344b5c6085cbac738d1bdc629b7b3ce011136fc6f67390431ce538b39c6481b32c739155aeb0c17546dce62ef7d9e531933f8f1d60c011a639c11ca758e43c6b5c65939b6c71871d1eb2c7fb9afe8f0f70800f32e0431ce129a6799a137c8c395ee014afb2c8eb9ce76d86bcc325de658df7b8ca37d8e42fb9c9dfb0c5df73877f62877fe521ffc11effcdbe5fc4decf14dfcf13fc20c7f830337c9467f904f3bcc4693ec3126f71812fb0c297b8cc5758e7eb5ce35bdce0afb9c5dfb1cd3f728f7fe101ffce23fe8b89b762dfcb7ebe8f83fc0087f8618ef2a31ce71966798e93fc040bbcc659ceb1cce7b9c817b9c257d9e09b5ce7af18f1b7dce61fb8cb3f739f7f6397ffe431ef7b3b36c90738c00719f0218ef014d33ccd093ec61c2f708a5759e475cef33643dee112efb2c67b6f67fe03504b03042d00000008000000210009a9f2e6ffffffffffffffff130014006576656e74732063616d5f615f696e2e6e707901001000500200000000000030020000000000009bec17ea1b10c9c850c650ad9e925a9c5ca46ea5a06e9366a1aea3a09e965f54529498179f5f94920a12774bcc294e058a17672416a402f91aa6163a9a3a0ab50ae4032e9eb2939e2719a6da4fdacfcb5c2b33c7dee3a0e445ffc32bed9fc7af5f68fc70a3bdaa72a3e9cf8aedf6877be378ff9dd8691f129532574472bf3d6f77c88af73187edfffc764f633978dcfecba5330d794b4ed81b292e2eb833e1b47dcae6aacd0502e7ec0d62e69a28e45db0e750ee5c2ace74d1be61caab5eb5b04bf6452e2f67f9db5db19fea9cb1a9a0e09a7dd5417b4ed547d7ec9768ed3ad71371c39ed9beea53e58c9bf67a8b3ffe2cfd77cbbea97da67ee7a4dbf6d5ed2fccd63fbb63ff45e177afc6f97bf6c7d90fcfbbdcf0c0fe7eda31e9bd3b1fd89f6378b17f5ac943fb47737892b6893cb2d79c91147ceff8237bdb7b0f9abf0a3eb61708573a63b3e7b1bde4af2ffafb363cb1dfbb69c153bf534fed0573bf4ff0627e663fe9c1855ba7f63db3f7749fd3ad19ffdc5e644afe8a49422fec9f7f55923e18f3c29e2dbbaac199fda5fd4b91ac668d3f2fed131ffcbf6a26f6dabecbecf35167ffd7f64e8744b79ce17a637f5089e95dd6ea37f6efb226bcd28e7f6bff3db06473d5cab7f6861a2b7c2242ded9d79ff6d3dde2f9defef792ab0f548d3ed8afe55bdeb0dfef833dc36af77695b51fec59bdfcdfcefefbc1fe4575ef9635e11fed0b0ec64c7e5df3d1be2f62eb9e8e4b1fed1598356a6a7d3fd9cf3837b149eaf627fb2b2b5a6f1ef9fec91e00504b03042d000000080000002100c0ea607cffffffffffffffff130014006576656e74732063616d5f615f65782e6e70790100100050020000000000002f020000000000009bec17ea1b10c9c850c650ad9e925a9c5ca46ea5a06e9366a1aea3a09e965f54529498179f5f94920a12774bcc294e058a17672416a402f91aa6163a9a3a0ab50ae4032e85d95ed1473e35d9cf489d332179ff7c7bee39ec8d96926bed9b654b1f1ed6de64ef1b5a6278da679b7deb9498e7f2eff7da733273f2f8cd3c68bfbd27ed4cacc561fb4c0513861b7ec7ec4d0c366c0a163f69cf7be533dbafd433f6132fae5f19687acebee7e837de734a17ec4fcd9973228dfb92fdc623d3a4c3622edb2bae99d57d4afb8afdfc1bffffca6fbf6a6f2826b63641fababd8eb69e60f5a11bf6faac2f1ebbacba69af17f325b571d32d7b06d709dd3eb3efd82fef6597cc7873d73ee1ac402ef39e7bf63b42b5832f283fb07fa5fe8383efda037bb6bd5b4fcaac7a687f88d5fc22bfdc23fb250e1d2fc3173db23fc19334f7dbb4c7f68a5b6a3facb57f623fb9e59dd4bce54fec7ff06e393f37f7a9bdd7f5231c0a0acfec978b741bb67e79667fd094f9ee8a8ce7f68fdbb74a4bbe7d6edf7ea3ce45e6d10b7bfbdd623f45ba5fda1fe4b07156fffcd2dec78a2ba071e72bfb3bebfbb302725edbeb84b6fe5cecf0c67ec13a8bef8c5bdfd81b5e7c796683e55bfbe98b5dea75f5dfd9b39b579896dc7867dfc898f1e190c37bfbb322938c0e327fb05f1d25531118fbc1fedd571b991fc73fd8af3013687264fa68ffb2347dfe1e978ff6a2aacb97efdbffd1fe6e5163fe54914ff6e1f31ff85df5f864cf9abf7272de9a4ff65d17b24f58b27db60700504b03042d0000000800000021006fa69176ffffffffffffffff130014006576656e74732063616d5f625f696e2e6e707901001000500200000000000030020000000000009bec17ea1b10c9c850c650ad9e925a9c5ca46ea5a06e9366a1aea3a09e965f54529498179f5f94920a12774bcc294e058a17672416a402f91aa6163a9a3a0ab50ae403ae8afc371acfe227d89fbae772e4eede99f6bfdf7dac5929bfc6bef8a4edccb68d5bed67f6cdca3af66997fde2e24e8d8e3d7bec05cee6fcfd3ffda0fd9d42b96fa74e1db6673821ed3855fbb8fdc1cead1f94c24fd8679fb72951d23c63ff95fb7bc2f59fe7ed4d76042d12f7bd687fd0625ed9f4fd17ed5555e73dab8eb96c1fa2c4a074bef48abd8838c35513b56bf63cabdea80aefb966bf2e636242d9921bf6f29cb61accbdb7ec753cfdcf87debd6d1fb1f6bfc573ff3bf6f5bffeb57f7873d7be31e07e532fdb7dfbaa6bfba566463fb00f9b3ee7f4a4650fec97fcb9f66ccbac87f665e5af261af53fb26738f72cb8c3fcb17dc8bf08c35b058fed3543a22316da3fb13fa4bd447cc29927f6afa284b3b4973eb5f77d733ad5eac353fb7ffcc16c7f9f3cb3bf9f74fefbb19bcfed9fad68524b6f7a616fdd53677072f70b7bcbf0c78977bb5edab3ed3b308745e295fdcd8f16f20c1f5fd95b7088cdd4b3796d1fb477f5055fc337f69d1f6ffee8567b6bfff9f19c75c5e7dfdacb9ddb5afd8ee39dfd8c870929f937ded95f5ea7e97c2ff5bd7d50eda6fb0be53fd86b7715bb07b87eb09fe99b1fa071e083fdd75ccb322eeb8ff63673b3f7ace9ff681f567542a16ecd47fb0ee630cb62914ff68e4d9f2684467fb2efb95df8ceedc427fb3dba75efb9de7db20700504b03042d000000080000002100a398c22dffffffffffffffff130014006576656e74732063616d5f625f65782e6e707901001000480200000000000026020000000000009bec17ea1b10c9c850c650ad9e925a9c5ca46ea5a06e9366a1aea3a09e965f54529498179f5f94920a12774bcc294e058a17672416a402f91aa6e63a9a3a0ab50ae403aeab5e466de15c53ed59b7af3ee93c7585fda5eb93546706afb57f631aa26fd5b8c59ea7c7eeef1ca15df6b7457f3ffc2f7fc0fee97d9bcf160c07ed7374fb353a3f1cb617f64c965a73e0b87d234770c91bd7d3f6bfd8bea437959eb1577458fa4232f1bcfdbfbf997697442edabb5f3d90a2b9e0927dbe91579cadc065fb94e90107923aaed89f9f96bcafb7e09afd7bef770f4f19ddb067947679b6f6d40dfb7b85ebf2da1c6ed9ef9e7ffceaf725b7edd5cb0aec6a0deedaf739d9df9ab7e0aebdbb534b0a8fe47dfbcb116fff1e6c7860ef686af33025e9a1bdf71171e698750fedcf5c7af9a026f3917da7b552cb03e9c7f619ebe627de7ef8d8fe85a6b2fd77c927f6b585c77f255c7b622f2ebc24e1f5a9a7f602ef7a34e2d73cb3774f9d9252f5e399bdb689d6ea3b9b9fdbdb303b9f684a7b616fd6aea17848e7a57dd38a0fdddf525eda57a4993a6f527c656ff5c8e4c442b1d7f6290e0eb9393f5edb4fbbed5eb0cce58dfda7b92fb86219deda970b6a26876d7e6b3f7fa784dbafca77f6cf7dbc5a0237bdb36f35997b3031ffbd7dc7761dc30ca30ff6db2d5b42372efe606fb7c4f0c6dd931fec659fec9df64efda3fde39d16c6b31a3fda9ffe541fa5f2f4a3bdf566e957b18c9fec8ffa3d9aaa90f0c99e77f3d963d2b73fd90300504b01022d032d000000080000002100b2b0bf1031190000d81a000009000000000000000000000080010000000074696d65732e6e7079504b01022d032d000000080000002100d1a74ba1a1050000d81a000009000000000000000000000080016c19000074686574612e6e7079504b01022d032d00000008000000210009a9f2e630020000500200001300000000000000000000008001481f00006576656e74732063616d5f615f696e2e6e7079504b01022d032d000000080000002100c0ea607c2f020000500200001300000000000000000000008001bd2100006576656e74732063616d5f615f65782e6e7079504b01022d032d0000000800000021006fa6917630020000500200001300000000000000000000008001312400006576656e74732063616d5f625f696e2e6e7079504b01022d032d000000080000002100a398c22d26020000480200001300000000000000000000008001a62600006576656e74732063616d5f625f65782e6e7079504b0506000000000600060072010000112900000000', '4a8e12f2032e734f04dbb68d8c2ce2096758d6f3cd23f83cf08972a0c5673597', NULL, NULL);












INSERT INTO public.engine VALUES (1, 'PIL-9 main', 1, 'h', '{"value": {}, "version": 1}', NULL, false);



INSERT INTO public.engine_book VALUES (1, 'Ostrey Tansy', 4, '1a06a2101ac16c48bcca4548c16810cbfeefdb4c7f85a0b3e9c2f45066b0bfd0', '# Ostrey Tansy: a made-up engine. Every name and figure in this file is invented.
# Lengths in millimetres seen from the chain end (x right, y up); *_deg are crank degrees; clock positions in degrees
# clockwise from twelve o''clock. `flaneur book check engines/ostrey-tansy.yaml` says what is wrong with it.
format: flaneur-book/1
name: Ostrey Tansy
kind: 3.3 L V6, primary chain to an idler, one secondary chain per bank, oil pump chain, balance shaft
revision: 4
notice: The maker''s service information, local codes and a licensed technician''s judgement come first.
cylinders: 6
banks: {A: {name: Bank A (1-3-5), cylinders: [1, 3, 5]}, B: {name: Bank B (2-4-6), cylinders: [2, 4, 6]}}
drive_plane: {seen_from: front of the engine, running_direction: clockwise}
signals: {edge_rise_us: 45, low_v: 0.3, high_v: 4.7, idle_rpm: 720}
limits: {cam_deviation_deg: 3.5, cycle_scatter_deg: 0.6, jump_prior: 0.004, lash_bands_deg: [4, 9], oil_kpa_hot_idle: 140}
shafts:
  crank: {name: Crankshaft, kind: crank}
  idler: {name: Idler, kind: idler}
  cam_a_in: {name: ''Intake cam, bank A (1-3-5)'', kind: cam, bank: A, role: intake}
  cam_a_ex: {name: ''Exhaust cam, bank A (1-3-5)'', kind: cam, bank: A, role: exhaust}
  cam_b_in: {name: ''Intake cam, bank B (2-4-6)'', kind: cam, bank: B, role: intake}
  cam_b_ex: {name: ''Exhaust cam, bank B (2-4-6)'', kind: cam, bank: B, role: exhaust}
  oil_pump: {name: Oil pump, kind: pump}
  balance: {name: Balance shaft, kind: balance, crank_turns: 1}
sprockets:
  crank: {name: Crank sprocket, shaft: crank, at_mm: [0, 0], teeth: 21, mark_clock_deg: 180}
  idler_in: {name: Idler primary sprocket, shaft: idler, at_mm: [0, 194.5], teeth: 28, mark_clock_deg: -0.397}
  idler_a: {name: Idler outer row, shaft: idler, at_mm: [0, 194.5], teeth: 24, mark_clock_deg: 235}
  idler_b: {name: Idler inner row, shaft: idler, at_mm: [0, 194.5], teeth: 24, mark_clock_deg: 125}
  cam_a_in: {name: Intake sprocket A, shaft: cam_a_in, at_mm: [83.0, 446.2], teeth: 36, mark_clock_deg: 344.035, fixed_by: phaser}
  cam_a_ex: {name: Exhaust sprocket A, shaft: cam_a_ex, at_mm: [176.5, 392.2], teeth: 36, mark_clock_deg: 79.068}
  cam_b_in: {name: Intake sprocket B, shaft: cam_b_in, at_mm: [-83.0, 446.2], teeth: 36, mark_clock_deg: 15.742, fixed_by: phaser}
  cam_b_ex: {name: Exhaust sprocket B, shaft: cam_b_ex, at_mm: [-176.5, 392.2], teeth: 36, mark_clock_deg: 280.709}
  crank_pump: {name: Crank sprocket of the oil pump, shaft: crank, at_mm: [0, 0], teeth: 23, mark_clock_deg: 180, row: 2}
  pump: {name: Oil pump sprocket, shaft: oil_pump, at_mm: [64.804, -90.329], teeth: 25, mark_clock_deg: 355.707, row: 2}
gears:
  gear_crank: {name: Crank gear, shaft: crank, at_mm: [0, 0], teeth: 44, module_mm: 2.0, mark_clock_deg: 0}
  gear_balance: {name: Balance shaft gear, shaft: balance, at_mm: [0, 88], teeth: 44, module_mm: 2.0, mark_clock_deg: 180}
meshes: [{driver: gear_crank, driven: gear_balance}]
chains:
  primary: {name: Primary chain, type: inverted_tooth, pitch_mm: 9.525, links: 66, driver: crank, loop: [crank, arm_p, idler_in, guide_p],
      counts: [{start: crank, end: idler_in, links: 33}, {start: idler_in, end: crank, links: 33}], marked_links: [{link: 0, colour: blue,
      meets: crank}, {link: 33, colour: copper, meets: idler_in}], limit_elongation_pct: 0.5, wear: &chain_wear {typical: 0.2,
      typical_hours: 4000, shape: 1.0, spread: 0.6, floor: 0.08, poor_oil_factor: 1.6, worn_out: 0.06,
      source: ''Invented for this book: depot chains measured at overhaul''}}
  chain_a: {name: Secondary chain A (1-3-5), type: inverted_tooth, pitch_mm: 8.0, links: 112, driver: idler_a, loop: [idler_a, arm_a,
      cam_a_in, cam_a_ex, guide_a], counts: [{start: idler_a, end: cam_a_in, links: 43}, {start: cam_a_in, end: cam_a_ex, links: 23},
      {start: cam_a_ex, end: idler_a, links: 46}], marked_links: [{link: 0, colour: blue, meets: idler_a}, {link: 43, colour: copper,
      meets: cam_a_in}, {link: 66, colour: copper, meets: cam_a_ex}], limit_elongation_pct: 0.5, wear: *chain_wear}
  chain_b: {name: Secondary chain B (2-4-6), type: inverted_tooth, pitch_mm: 8.0, links: 112, driver: idler_b, loop: [idler_b, arm_b,
      cam_b_ex, cam_b_in, guide_b], counts: [{start: idler_b, end: cam_b_ex, links: 46}, {start: cam_b_ex, end: cam_b_in, links: 23},
      {start: cam_b_in, end: idler_b, links: 43}], marked_links: [{link: 0, colour: blue, meets: idler_b}, {link: 46, colour: yellow,
      meets: cam_b_ex}, {link: 69, colour: yellow, meets: cam_b_in}], limit_elongation_pct: 0.5, wear: *chain_wear}
  pump_chain: {name: Oil pump chain, type: bush, pitch_mm: 8.0, links: 52, driver: crank_pump, loop: [crank_pump, pump], counts: [],
      limit_elongation_pct: 1.0, wear: *chain_wear}
guides:
  guide_p: {name: Primary guide, chain: primary, centre_mm: [171.99, 87.879], radius_mm: 150, wrap: -1, liner_mm: 5.5, limit_wear_mm: 3.0,
      wear: &liner_wear {typical: 0.6, typical_hours: 4000, shape: 1.0, spread: 0.7, floor: 0.25, poor_oil_factor: 1.3, worn_out: 0.06,
      source: ''Invented for this book: depot liners measured at overhaul''}}
  guide_a: {name: Guide A (1-3-5), chain: chain_a, centre_mm: [231.843, 149.476], radius_mm: 190, wrap: -1, liner_mm: 5.5,
      limit_wear_mm: 3.0, wear: *liner_wear}
  guide_b: {name: Guide B (2-4-6), chain: chain_b, centre_mm: [154.888, 372.795], radius_mm: 190, wrap: -1, liner_mm: 5.5,
      limit_wear_mm: 3.0, wear: *liner_wear}
arms:
  arm_p: {name: Primary arm, chain: primary, centre_mm: [-110.337, 95.129], radius_mm: 90, wrap: -1, liner_mm: 5.5, limit_wear_mm: 3.0,
      pivot_mm: [-48.73, 12.91], tensioner: tensioner_p, wear: *liner_wear}
  arm_a: {name: Arm A (1-3-5), chain: chain_a, centre_mm: [-96.001, 357.069], radius_mm: 130, wrap: -1, liner_mm: 5.5, limit_wear_mm: 3.0,
      pivot_mm: [17.46, 444.53], tensioner: tensioner_a, wear: *liner_wear}
  arm_b: {name: Arm B (2-4-6), chain: chain_b, centre_mm: [-188.786, 192.617], radius_mm: 130, wrap: -1, liner_mm: 5.5, limit_wear_mm: 3.0,
      pivot_mm: [-207.82, 334.6], tensioner: tensioner_b, wear: *liner_wear}
tensioners:
  tensioner_p: {name: Primary tensioner, pad_mm: [-64.32, 152.1], direction_clock_deg: 86.9, book_plunger_mm: 6.0, max_plunger_mm: 24,
      notch_mm: 2.0, first_notch_mm: 2.0, body_mm: 62, leak_down_s: 12, tolerance_mm: 0.3,
      release: Pull the pin with the arm against the chain; the plunger must come out by itself.}
  tensioner_a: {name: Tensioner A (1-3-5), pad_mm: [-41.07, 260.24], direction_clock_deg: 105.0, book_plunger_mm: 7.0, max_plunger_mm: 28,
      notch_mm: 2.5, first_notch_mm: 2.5, body_mm: 70, leak_down_s: 12, tolerance_mm: 0.3,
      release: Pull the pin with the arm against the chain; the plunger must come out by itself.}
  tensioner_b: {name: Tensioner B (2-4-6), pad_mm: [-77.47, 191.79], direction_clock_deg: 44.9, book_plunger_mm: 7.0, max_plunger_mm: 28,
      notch_mm: 2.5, first_notch_mm: 2.5, body_mm: 70, leak_down_s: 12, tolerance_mm: 0.3,
      release: Pull the pin with the arm against the chain; the plunger must come out by itself.}
phasers:
  phaser_a: {name: Phaser A (1-3-5), shaft: cam_a_in, range_deg: 50, moves: advance, park_tolerance_deg: 0.6, steady_error_deg: 1.0,
      fault_prior: 0.03,
      response: &response {oil_c: 90, oil_kpa: 300, dead_time_s: 0.12, rate_out_deg_s: 90, rate_back_deg_s: 110,
        hunting_deg: 0.8, source: Invented for this book}}
  phaser_b: {name: Phaser B (2-4-6), shaft: cam_b_in, range_deg: 50, moves: advance, park_tolerance_deg: 0.6, steady_error_deg: 1.0,
      fault_prior: 0.03,
      response: *response}
tone_wheels:
  wheel_crank: {name: Crank wheel, kind: gap, shaft: crank, channel: crank, teeth: 60, missing: 2, first_tooth_deg: 84, tolerance_deg: 0.2,
      slip_prior: 0.003, delay_us: 0, delay_tolerance_us: 20}
  wheel_a_in: {name: ''Tone wheel, intake A'', kind: vanes, shaft: cam_a_in, channel: cam_a_in, vanes_deg: [[20, 105], [200, 240], [330, 460],
      [610, 640]], tolerance_deg: 0.35, slip_prior: 0.004, delay_us: 0, delay_tolerance_us: 20}
  wheel_a_ex: {name: ''Tone wheel, exhaust A'', kind: vanes, shaft: cam_a_ex, channel: cam_a_ex, vanes_deg: [[48, 110], [180, 310], [400,
      455], [560, 655]], tolerance_deg: 0.35, slip_prior: 0.004, delay_us: 0, delay_tolerance_us: 20}
  wheel_b_in: {name: ''Tone wheel, intake B'', kind: vanes, shaft: cam_b_in, channel: cam_b_in, vanes_deg: [[40, 170], [260, 290], [400, 475],
      [590, 630]], tolerance_deg: 0.35, slip_prior: 0.004, delay_us: 0, delay_tolerance_us: 20}
  wheel_b_ex: {name: ''Tone wheel, exhaust B'', kind: vanes, shaft: cam_b_ex, channel: cam_b_ex, vanes_deg: [[10, 50], [150, 245], [350, 380],
      [480, 610]], tolerance_deg: 0.35, slip_prior: 0.004, delay_us: 0, delay_tolerance_us: 20}
clearance:
  bore_mm: 93.0
  stroke_mm: 81.0
  rod_mm: 146.0
  pin_offset_mm: 0.0
  fires_deg: {1: 0, 2: 120, 3: 240, 4: 360, 5: 480, 6: 600}
  firing_order: [1, 2, 3, 4, 5, 6]
  reserve: {room_mm: 0.8, crank_deg: 2.0}
  seats: {layout: across, bridge_mm: 4.0}
  cam_friction_nm: 1.5
  source: Invented for this book
  valves:
    intake_a: {name: Intake valves A, cam: cam_a_in, kind: intake, cylinders: [1, 3, 5], valves_each: 2, max_lift_mm: 9.8,
        duration_deg: 224, centreline_deg: 490, shape: poly_345, angle_to_bore_deg: 18, rest_gap_mm: 0.9, pocket_mm: 2.29, crown: pocket,
        head_mm: 36, spring_n: 195, spring_n_per_mm: 26, follower_clock_deg: 192}
    exhaust_a: {name: Exhaust valves A, cam: cam_a_ex, kind: exhaust, cylinders: [1, 3, 5], valves_each: 2, max_lift_mm: 9.2,
        duration_deg: 236, centreline_deg: 244, shape: poly_345, angle_to_bore_deg: 19, rest_gap_mm: 0.9, pocket_mm: 0.2, crown: pocket,
        head_mm: 31, spring_n: 195, spring_n_per_mm: 26, follower_clock_deg: 228}
    intake_b: {name: Intake valves B, cam: cam_b_in, kind: intake, cylinders: [2, 4, 6], valves_each: 2, max_lift_mm: 9.8,
        duration_deg: 224, centreline_deg: 490, shape: poly_345, angle_to_bore_deg: 18, rest_gap_mm: 0.9, pocket_mm: 2.29, crown: pocket,
        head_mm: 36, spring_n: 195, spring_n_per_mm: 26, follower_clock_deg: 168}
    exhaust_b: {name: Exhaust valves B, cam: cam_b_ex, kind: exhaust, cylinders: [2, 4, 6], valves_each: 2, max_lift_mm: 9.2,
        duration_deg: 236, centreline_deg: 244, shape: poly_345, angle_to_bore_deg: 19, rest_gap_mm: 0.9, pocket_mm: 0.2, crown: pocket,
        head_mm: 31, spring_n: 195, spring_n_per_mm: 26, follower_clock_deg: 132}
  holding:
  - {school: tool, name: Cam holders, text: A holder over the intake flats of each bank; the exhaust cams hang on the same chain.,
      cams: [cam_a_in, cam_b_in]}
  - {school: chain_tied, name: Chains tied,
      text: ''Each secondary chain tied to both its cam sprockets and wedged below: fast, riskier; the wedge must not slip.''}
service_position:
  crank_deg: 0
  text: Cylinder 1 at the top of its compression stroke; pulley line at the pointer, crank keyway at six o''clock, both intake dots towards the valley.
check_positions:
  - {name: Intake cams, crank_deg: 0, cams: [cam_a_in, cam_b_in], tool: holders,
      text: "At the service position a straight edge lies flat on each intake cam''s flat.", ask: "is each intake flat level?"}
  - {name: Exhaust cams, crank_deg: 30, cams: [cam_a_ex, cam_b_ex], tool: exhaust_gauge,
      text: "Thirty degrees further on the exhaust gauge slides on.", ask: "does the exhaust gauge slide on at both banks?"}
marks:
  line_pulley: {name: Pulley line, wheel: crank, form: line, clock_deg: 20, carried_by: [crank_pulley, front_cover], behind: [],
      meets: the pointer of the front cover, miss_before_deg: 1.5, miss_after_deg: 1.5}
  dot_crank: {name: Crank dot, wheel: crank, form: dot, clock_deg: 180, meets: "the blue link of the primary chain, straight down",
      miss_before_deg: 1.0, miss_after_deg: 1.5}
  key_crank: {name: Crank keyway, wheel: crank, form: keyway, clock_deg: 180, meets: "six o''clock on the block", miss_before_deg: 1.5,
      miss_after_deg: 1.5}
  dot_idler: {name: Idler dot, wheel: idler_in, form: dot, clock_deg: -0.397, meets: "its copper link, twelve o''clock",
      miss_before_deg: 1.0, miss_after_deg: 2.0}
  dot_a_in: {name: Dot of intake sprocket A, wheel: cam_a_in, form: dot, behind: [cam_cover_a], clock_deg: 344.035, meets: its copper link, miss_before_deg: 1.0,
      miss_after_deg: 2.0}
  dot_a_ex: {name: Dot of exhaust sprocket A, wheel: cam_a_ex, form: dot, behind: [cam_cover_a], clock_deg: 79.068, meets: its copper link, miss_before_deg: 1.0,
      miss_after_deg: 2.5}
  dot_b_in: {name: Dot of intake sprocket B, wheel: cam_b_in, form: dot, behind: [cam_cover_b], clock_deg: 15.742, meets: its yellow link, miss_before_deg: 1.0,
      miss_after_deg: 2.0}
  dot_b_ex: {name: Dot of exhaust sprocket B, wheel: cam_b_ex, form: dot, behind: [cam_cover_b], clock_deg: 280.709, meets: its yellow link, miss_before_deg: 1.0,
      miss_after_deg: 2.5}
  line_balance: {name: Line of the balance gear, wheel: gear_balance, form: line, clock_deg: 180,
      meets: "the line of the crank gear, between both shafts", miss_before_deg: 1.0, miss_after_deg: 1.0}
  line_gear: {name: Line of the crank gear, wheel: gear_crank, form: line, clock_deg: 0,
      meets: "the line of the balance gear, between both shafts", miss_before_deg: 1.0, miss_after_deg: 1.0}
  number_a: {name: Number on intake sprocket A, wheel: cam_a_in, form: line, clock_deg: 120, is_timing: false,
      purpose: "Says which bank the sprocket belongs to; not a timing mark"}
tools:
  holders: {name: Cam holders, holds: [cam_a_in, cam_b_in], crank_deg: 0, play_deg: 0.5, text: One on each bank over the intake flat.,
      workshop_method: A straight edge on each intake flat and a clamp on the hexagon.}
  clamps: {name: Hexagon clamps, holds: [cam_a_ex, cam_b_ex], play_deg: 1.0,
      text: "One on each exhaust cam''s hexagon, resting on the head: it holds the cam where it stands.",
      workshop_method: An open spanner tied to the head.}
  exhaust_gauge: {name: Exhaust gauge, holds: [cam_a_ex, cam_b_ex], crank_deg: 30, play_deg: 1.0,
      text: "Slides over the exhaust flats, no force."}
  crank_pin: {name: Crank pin, holds: [crank], crank_deg: 0, play_deg: 0.4,
      text: "Through the block into the crank web, from outside; usually one turn off if it does not go in."}
fasteners:
  pulley_bolt: {name: Crank pulley bolt, count: 1, thread: M14, lengths_mm: [62], surface: oiled, one_use: true, price: 4.5,
      stages: [60 ± 3 Nm, 90 ± 5°, 60 ± 5°], pattern: "single, pulley held", tool: "21 mm socket, long bar",
      note: Hold the crank at the pulley; never against the locking pin.}
  cover_bolts: {name: Front cover bolts, count: 14, thread: M8, lengths_mm: [30, 75], surface: dry,
      holes: "the three long ones round the water passage", stages: [10 ± 1 Nm, 24 ± 2 Nm], pattern: "from the middle outwards, crosswise",
      tool: 10 mm socket,
      places: {at_mm: [[-144, 144], [250, 357], [216, 227], [-203, 265], [182, 96], [-256, 388], [-84, 23], [203, 469], [148,
      -34], [-176, 485], [83, 526], [-15, -92], [-52, 526], [91, -151]], long: [9, 12, 14], plane: main}}
  cam_cover_bolts: {name: Cam cover bolts, count: 11, thread: M6, lengths_mm: [38], surface: dry, stages: [10 ± 1 Nm],
      pattern: from the middle outwards, tool: 8 mm socket,
      places: {at_mm: [[0, 70], [0, -70], [100, 70], [100, -70], [-100, 70], [-100, -70], [200, 70], [200, -70], [224, 0], [-200,
      70], [-200, -70]]}}
  tensioner_bolts: {name: Tensioner bolts, count: 2, thread: M6, lengths_mm: [45], surface: dry, stages: [12 ± 1 Nm], pattern: turn about,
      tool: 8 mm socket}
  guide_bolts: {name: Guide bolts, count: 2, room_deg: 45, thread: M8, lengths_mm: [28], surface: threadlocker, stages: [21 ± 2 Nm], pattern: lower first,
      tool: 10 mm socket}
  arm_pivot: {name: Arm pivot bolt, count: 1, thread: M8, lengths_mm: [34], surface: threadlocker, stages: [24 ± 2 Nm], pattern: single,
      tool: 10 mm socket, note: The arm must swing freely afterwards.}
  phaser_bolt: {name: Phaser bolt, count: 1, thread: M12, lengths_mm: [58], surface: oiled, one_use: true, price: 4.5, stages: [35 ± 2 Nm,
      100 ± 5°], pattern: "single, cam held at its hexagon", tool: 18 mm socket,
      note: "Counter-hold the cam at its hexagon, never at the phaser.",
      variants: {
        used: {name: "used, stretched once", stages: [30 ± 2 Nm], surface: threadlocker, is_stop_gap: true,
          note: "No angle: it is in its yield already. A stop-gap until a new one comes."},
        stud: {name: stud with nut, stages: [20 ± 2 Nm, 60 ± 5°], note: "Stud in hand-tight first; nut oiled."}}}
  idler_bolt: {name: Idler shaft bolt, count: 1, thread: M10, lengths_mm: [40], surface: oiled, one_use: true, price: 4.5,
      stages: [50 ± 3 Nm, 45 ± 5°], pattern: single, tool: hexalobular bit T60}
  pump_bolts: {name: Water pump bolts, count: 6, thread: M6, lengths_mm: [25], surface: dry, stages: [10 ± 1 Nm], pattern: crosswise,
      tool: 8 mm socket,
      places: {at_mm: [[46, 0], [-46, 0], [23, 40], [-23, -40], [-23, 40], [23, -40]]}}
  pump_sprocket_bolt: {name: Pump sprocket bolt, count: 1, thread: M8, lengths_mm: [22], surface: threadlocker, stages: [24 ± 2 Nm],
      pattern: "single, sprocket held with a pin spanner", tool: 13 mm socket}
components:
  accessory_belt: {kind: accessory_belt, name: Accessory belt, price: 48}
  crank_pulley: {kind: pulley, name: Crank pulley, price: 130, covered_by: [accessory_belt], fasteners: [pulley_bolt],
      fit_after: [front_cover, front_seal]}
  cam_cover_a: {kind: cover, name: Cam cover A (1-3-5), price: 0, renewable: false, fasteners: [cam_cover_bolts],
      gasket: new gasket and plug well seals, corners: the two joints to the front cover, minutes_off: 20, minutes_on: 15, debris: true,
      fit_after: [front_cover]}
  cam_cover_b: {kind: cover, name: Cam cover B (2-4-6), price: 0, renewable: false, fasteners: [cam_cover_bolts],
      gasket: new gasket and plug well seals, corners: the two joints to the front cover, minutes_off: 20, minutes_on: 15, debris: true,
      fit_after: [front_cover]}
  water_pump: {kind: plain, name: Water pump, price: 160, covered_by: [accessory_belt], fasteners: [pump_bolts], seal: pump seal,
      look: A pump with play can rattle like a chain.}
  front_cover: {kind: cover, name: Front cover, price: 0, renewable: false, covered_by: [crank_pulley, water_pump],
      comes_with: [cam_cover_a, cam_cover_b], remove_after: [cam_cover_a, cam_cover_b], fasteners: [cover_bolts],
      corners: the four corner joints, minutes_off: 35, minutes_on: 25}
  front_seal: {kind: seal, name: Front crank seal, price: 18, one_use: true, covered_by: [crank_pulley], fit_after: [front_cover]}
  pump_sprocket: {kind: pump_sprocket, name: Oil pump sprocket, part: pump, price: 26, covered_by: [front_cover], comes_with: [chain_pump],
      fasteners: [pump_sprocket_bolt], held_by: with a pin spanner, with: the oil pump chain}
  chain_pump: {kind: plain_chain, part: pump_chain, price: 29, covered_by: [front_cover, pump_sprocket]}
  tensioner_p: {kind: tensioner, part: tensioner_p, price: 62, covered_by: [front_cover], fasteners: [tensioner_bolts]}
  arm_p: {kind: arm, part: arm_p, price: 39, covered_by: [tensioner_p], fasteners: [arm_pivot], fit_after: [chain_p]}
  chain_p: {kind: chain, part: primary, price: 96, covered_by: [arm_p, guide_p, chain_pump]}
  guide_p: {kind: guide, part: guide_p, price: 34, covered_by: [chain_pump], fasteners: [guide_bolts]}
  tensioner_a: {kind: tensioner, part: tensioner_a, price: 74, covered_by: [front_cover, cam_cover_a], fasteners: [tensioner_bolts]}
  arm_a: {kind: arm, part: arm_a, price: 39, covered_by: [tensioner_a], fasteners: [arm_pivot], fit_after: [chain_a_part]}
  chain_a_part: {kind: chain, part: chain_a, price: 85, covered_by: [arm_a, cam_cover_a]}
  guide_a: {kind: guide, part: guide_a, price: 34, covered_by: [chain_a_part], fasteners: [guide_bolts]}
  tensioner_b: {kind: tensioner, part: tensioner_b, price: 74, covered_by: [front_cover, cam_cover_b], fasteners: [tensioner_bolts]}
  arm_b: {kind: arm, part: arm_b, price: 39, covered_by: [tensioner_b], fasteners: [arm_pivot], fit_after: [chain_b_part]}
  chain_b_part: {kind: chain, part: chain_b, price: 85, covered_by: [arm_b, cam_cover_b, chain_a_part]}
  guide_b: {kind: guide, part: guide_b, price: 34, covered_by: [chain_b_part], fasteners: [guide_bolts]}
  phaser_a_part: {kind: phaser, part: phaser_a, price: 210, covered_by: [chain_a_part], fasteners: [phaser_bolt]}
  phaser_b_part: {kind: phaser, part: phaser_b, price: 210, covered_by: [chain_b_part], fasteners: [phaser_bolt]}
  idler_part: {kind: idler, name: Idler, price: 88, covered_by: [chain_p, chain_a_part, chain_b_part], fasteners: [idler_bolt]}
operations:
  battery_off: {template: battery_off}
  soak_p: {template: soak, of: tensioner_p}
  soak_a: {template: soak, of: tensioner_a}
  soak_b: {template: soak, of: tensioner_b}
  drain_coolant: {template: drain, fluid: coolant, needed_for: [water_pump]}
  drain_oil: {template: drain, fluid: engine oil, needed_for: [front_cover]}
  unplug: {template: unplug, what: "six coils, four cam sensors and two phaser solenoids", n: 12, needed_for: [cam_cover_a, cam_cover_b]}
  support: {template: support, end: front, needed_for: [front_cover]}
  plugs_out: {template: plugs_out, n: 6}
  service_position: {template: set_position, at: 0, place: the pulley line at its pointer, marks: [line_pulley],
      after: ["remove:accessory_belt"]}
  crank_pin: {template: lock_crank, tool: crank_pin}
  read_before: {template: read_before, after_off: [front_cover], marks: [dot_crank, dot_idler, dot_a_in, dot_a_ex, dot_b_in, dot_b_ex,
      line_balance], phasers: [phaser_a, phaser_b], tensioners: every plunger}
  hold_intake: {template: hold_cams, tool: holders, n: 2, cams: [cam_a_in, cam_b_in], under: [cam_cover_a, cam_cover_b]}
  hold_exhaust: {template: hold_cams, tool: clamps, n: 2, cams: [cam_a_ex, cam_b_ex], under: [cam_cover_a, cam_cover_b]}
  break_a: {template: break_loose, of: phaser_a_part}
  break_b: {template: break_loose, of: phaser_b_part}
  paint_p: {template: mark_links, of: chain_p}
  paint_a: {template: mark_links, of: chain_a_part}
  paint_b: {template: mark_links, of: chain_b_part}
  pin_p: {template: retract, of: tensioner_p}
  pin_a: {template: retract, of: tensioner_a}
  pin_b: {template: retract, of: tensioner_b}
  pull_p: {template: release, of: tensioner_p, before: ["fit:chain_a_part", "fit:chain_b_part"]}
  pull_a: {template: release, of: tensioner_a}
  pull_b: {template: release, of: tensioner_b}
  release_intake: {template: unhold, tool: holders, n: 2, cams: [cam_a_in, cam_b_in], under: [cam_cover_a, cam_cover_b]}
  release_exhaust: {template: unhold, tool: clamps, n: 2, cams: [cam_a_ex, cam_b_ex], under: [cam_cover_a, cam_cover_b]}
  crank_pin_out: {template: unlock_crank, tool: crank_pin}
  turn_open: {template: hand_turn, at: 0, coming_back: 616, closes: [front_cover, cam_cover_a, cam_cover_b], marks: [key_crank,
      line_balance, line_gear]}
  turn_closed: {template: hand_turn_closed, at: 0, marks: [line_pulley]}
  mount_on: {template: mount_on, end: front, needed_for: [front_cover], after: ["torque:front_cover"]}
  plugs_in: {template: plugs_in, n: 6, nm: 18}
  plug_up: {template: plug_up, what: "coils, cam sensors and phaser solenoids", n: 12, needed_for: [cam_cover_a, cam_cover_b]}
  cure: {template: cure, minutes_of: 60, needed_for: [front_cover]}
  fill: {template: fill, fluids: engine oil and coolant, how: "Bleed the coolant at the thermostat, heater on.", needed_for: [front_cover,
      water_pump], supplies: [Oil filter, "Engine oil, 5.7 L", "Coolant, 8 L"]}
  battery_on: {template: battery_on}
  prime: {template: prime}
  relearn: {template: relearn}
  cold_retest: {template: cold_retest}
usual_way: Front cover off, cams held
ways:
  in_place_a:
    choice: access
    name: Through cam cover A (1-3-5)
    text: "The front cover stays on: the secondary chain is wedged below and tied to its sprockets, the phaser lifted out between them."
    serves: [phaser_a_part]
    alone: true
    risks:
    - {what: "The wedge slips and the chain leaves its guide below; then the front cover comes off after all.", chance: 0.08,
        falls_back: true}
    - {what: "A tie or a piece of the wedge falls into the chain case.", chance: 0.02, minutes: 120, is_grave: true}
    components:
      phaser_a_part: {covered_by: [cam_cover_a], remove: {effects: {slackens: [chain_a]}}}
    operations:
      wedge_a: {template: wedge, of: chain_a_part, where: between the strands above the arm, under: [cam_cover_a],
          needed_for: [phaser_a_part], before: ["remove:phaser_a_part"]}
      tie_a: {template: tie_chain, of: chain_a_part, to: both cam sprockets, under: [cam_cover_a], needed_for: [phaser_a_part],
          before: ["remove:phaser_a_part"]}
      paint_a: {needed_for: [phaser_a_part]}
      read_before: {after_off: [cam_cover_a], marks: [dot_a_in, dot_a_ex], phasers: [phaser_a], tensioners: null}
      hold_intake: {n: 1, cams: [cam_a_in], under: [cam_cover_a]}
      hold_exhaust: {n: 1, cams: [cam_a_ex], under: [cam_cover_a]}
      wedge_a_out: {template: wedge_out, of: chain_a_part, under: [cam_cover_a], needed_for: [phaser_a_part],
          after: ["torque:phaser_a_part"]}
      untie_a: {template: untie_chain, of: chain_a_part, under: [cam_cover_a], needed_for: [phaser_a_part],
          after: ["op:wedge_a_out"]}
      release_intake: {n: 1, cams: [cam_a_in], under: [cam_cover_a], after: ["op:untie_a"]}
      release_exhaust: {n: 1, cams: [cam_a_ex], under: [cam_cover_a], after: ["op:untie_a"]}
      turn_open: {closes: [cam_cover_a], coming_back: null, by: pulley bolt, marks: [line_pulley, dot_a_in, dot_a_ex]}
    without: [turn_closed]
  lockout_a:
    choice: phaser_a
    name: Phaser A (1-3-5) locked out
    text: "A kit holds the phaser in park for good; for an engine that will not be kept long, or while no phaser can be had."
    serves: [phaser_a_part]
    locks_out: [phaser_a_part]
    needs_lead: true
    risks: [{what: The kit works loose or stands off centre and the bolt breaks., chance: 0.03, minutes: 500, price: 210, is_grave: true}]
    loses: ["Cam timing of bank A stays at park: less torque below 2500 rpm, its code stays set"]
    components: {phaser_a_part: {kind: phaser_lockout, price: 65}}
  in_place_b:
    choice: access
    name: Through cam cover B (2-4-6)
    text: "The front cover stays on: the secondary chain is wedged below and tied to its sprockets, the phaser lifted out between them."
    serves: [phaser_b_part]
    alone: true
    risks:
    - {what: "The wedge slips and the chain leaves its guide below; then the front cover comes off after all.", chance: 0.08,
        falls_back: true}
    - {what: "A tie or a piece of the wedge falls into the chain case.", chance: 0.02, minutes: 120, is_grave: true}
    components:
      phaser_b_part: {covered_by: [cam_cover_b], remove: {effects: {slackens: [chain_b]}}}
    operations:
      wedge_b: {template: wedge, of: chain_b_part, where: between the strands above the arm, under: [cam_cover_b],
          needed_for: [phaser_b_part], before: ["remove:phaser_b_part"]}
      tie_b: {template: tie_chain, of: chain_b_part, to: both cam sprockets, under: [cam_cover_b], needed_for: [phaser_b_part],
          before: ["remove:phaser_b_part"]}
      paint_b: {needed_for: [phaser_b_part]}
      read_before: {after_off: [cam_cover_b], marks: [dot_b_in, dot_b_ex], phasers: [phaser_b], tensioners: null}
      hold_intake: {n: 1, cams: [cam_b_in], under: [cam_cover_b]}
      hold_exhaust: {n: 1, cams: [cam_b_ex], under: [cam_cover_b]}
      wedge_b_out: {template: wedge_out, of: chain_b_part, under: [cam_cover_b], needed_for: [phaser_b_part],
          after: ["torque:phaser_b_part"]}
      untie_b: {template: untie_chain, of: chain_b_part, under: [cam_cover_b], needed_for: [phaser_b_part],
          after: ["op:wedge_b_out"]}
      release_intake: {n: 1, cams: [cam_b_in], under: [cam_cover_b], after: ["op:untie_b"]}
      release_exhaust: {n: 1, cams: [cam_b_ex], under: [cam_cover_b], after: ["op:untie_b"]}
      turn_open: {closes: [cam_cover_b], coming_back: null, by: pulley bolt, marks: [line_pulley, dot_b_in, dot_b_ex]}
    without: [turn_closed]
  lockout_b:
    choice: phaser_b
    name: Phaser B (2-4-6) locked out
    text: "A kit holds the phaser in park for good; for an engine that will not be kept long, or while no phaser can be had."
    serves: [phaser_b_part]
    locks_out: [phaser_b_part]
    needs_lead: true
    risks: [{what: The kit works loose or stands off centre and the bolt breaks., chance: 0.03, minutes: 500, price: 210, is_grave: true}]
    loses: ["Cam timing of bank B stays at park: less torque below 2500 rpm, its code stays set"]
    components: {phaser_b_part: {kind: phaser_lockout, price: 65}}
kits:
  maker_set:
    {name: "Maker''s drive set", made_by: maker, price: 703,
      holds: {pump_sprocket: 1, chain_pump: 1, tensioner_p: 1, arm_p: 1, chain_p: 1, guide_p: 1, tensioner_a: 1, arm_a: 1,
          chain_a_part: 1, guide_a: 1, tensioner_b: 1, arm_b: 1, chain_b_part: 1, guide_b: 1, pulley_bolt: 1, phaser_bolt: 2,
          idler_bolt: 1, front_seal: 1}}
  other_set:
    {name: Aftermarket drive set, made_by: aftermarket, price: 360,
      holds: {pump_sprocket: 1, chain_pump: 1, tensioner_p: 1, arm_p: 1, chain_p: 1, guide_p: 1, tensioner_a: 1, arm_a: 1,
          chain_a_part: 1, guide_a: 1, tensioner_b: 1, arm_b: 1, chain_b_part: 1, guide_b: 1, front_seal: 1},
      weakness: ["Its coloured links stand elsewhere than the maker''s: count, and trust no colour.",
          "Its tensioner pins fit loosely: look that the plunger stays back."]}
  one_chain_set:
    {name: "Maker''s set, secondary chain B (2-4-6)", made_by: maker, price: 213,
      holds: {tensioner_b: 1, arm_b: 1, chain_b_part: 1, guide_b: 1}}
proof:
  hand_turns: 2
  mark_checks: [Pulley line meets the pointer of the cover, "Cylinder 1 on compression, felt at its plug hole"]
  text: Two crank turns by hand with everything on, forwards only, before the plugs go in.
', true, NULL, NULL, '2026-11-28 11:39:10.344084+00', NULL, NULL, NULL);









INSERT INTO public.job VALUES (1, 'SI-0001', 1, 1, 10, 'Ivo Tarnholt', 1, '2026-11-28 11:39:11.245247+00', '{"value": {"hours": 3000.0, "stood_h": null, "code_list": null, "complaint": "rattles cold", "hours_typed": "3000", "replaced_at": "", "replaced_at_h": null, "replaced_parts": [], "standing_hours": ""}, "version": 1}', '{"value": {}, "version": 1}', '{"value": ["chain_a_part"], "version": 1}', '{"value": {"kit": "", "kept": [], "ways": [], "parts": [{"key": "front_seal", "why": "one-use", "item": "Front crank seal", "name": "Front crank seal", "size": "", "count": 1, "first": "", "holes": "", "price": 18.0}, {"key": "chain_a_part", "why": "chosen", "item": "Secondary chain A (1-3-5)", "name": "Secondary chain A (1-3-5)", "size": "", "count": 1, "first": "", "holes": "", "price": 85.0}, {"key": "pulley_bolt", "why": "one-use", "item": "Crank pulley bolt", "name": "Crank pulley bolt (Crank pulley)", "size": "M14 × 62 mm, thread oiled", "count": 1, "first": "", "holes": "", "price": 4.5}], "price": 107.5, "scope": ["chain_a_part"], "steps": [{"ref": "op:battery_off", "why": "for every job on this engine", "note": "", "part": null, "text": "Disconnect the negative lead and tie it away.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Lamps and horn?", "low": null, "code": "lamps", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["dead"], "stage": null, "escape": null, "choices": [{"code": "dead", "words": "dead"}, {"code": "live", "words": "still live"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "prepare", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Battery off", "tools": [], "begins": 0.0, "bursts": null, "fitted": [], "remedy": "Still live: find the second battery.", "held_up": ["op:unplug", "op:drain_coolant", "op:drain_oil", "op:support"], "minutes": 4.0, "waiting": 0.0, "cautions": ["Battery negative off and tied away: the starter must not be able to turn.", "Work on a cold engine. Oil, coolant and metal stay hot long after the stop."], "supplies": [], "template": "battery_off", "no_return": "", "one_press": ["dead"], "waits_for": [], "two_person": false, "looks_right": "Lamps and horn are dead.", "spread_minutes": 1.2}, {"ref": "op:unplug", "why": "for the cam cover A (1-3-5)", "note": "", "part": null, "text": "Label and unplug six coils, four cam sensors and two phaser solenoids.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Connectors labelled and unplugged", "low": null, "code": "connectors", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 12, "fastener": null}], "bolts": [], "phase": "prepare", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Connectors off: six coils, four cam sensors and two phaser solenoids", "tools": ["labels"], "begins": 4.0, "bursts": null, "fitted": [], "remedy": "One short: trace the loom before anything is pulled.", "held_up": ["op:plugs_out"], "minutes": 24.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "unplug", "no_return": "", "one_press": ["12"], "waits_for": ["op:battery_off"], "two_person": false, "looks_right": "Twelve labels, twelve connectors hang free.", "spread_minutes": 7.2}, {"ref": "op:plugs_out", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Blow the wells clean. Plugs out, laid in cylinder order.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Plugs counted out", "low": null, "code": "plugs", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 6, "fastener": null}], "bolts": [], "phase": "prepare", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Spark plugs out", "tools": ["plug socket", "air line"], "begins": 28.0, "bursts": null, "fitted": [], "remedy": "A plug that binds: oil, wait, then a quarter turn at a time.", "held_up": ["op:service_position"], "minutes": 18.0, "waiting": 0.0, "cautions": ["Compressed air blows grit into eyes: goggles on, and nobody looks into a well."], "supplies": [], "template": "plugs_out", "no_return": "", "one_press": ["6"], "waits_for": ["op:unplug"], "two_person": false, "looks_right": "Six plugs out.", "spread_minutes": 5.4}, {"ref": "remove:cam_cover_a", "why": "covers the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Loosen from outside inwards. Push each bolt into the marked card. Take cam cover A (1-3-5) off.", "tour": null, "tray": [], "verb": "remove", "about": "cam_cover_a", "asked": [{"ask": "Bolts counted out", "low": null, "code": "bolts", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 11, "fastener": null}, {"ask": "What lies inside?", "low": null, "code": "debris", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["none", "metal", "plastic"], "stage": null, "escape": null, "choices": [{"code": "none", "words": "nothing"}, {"code": "metal", "words": "metal"}, {"code": "plastic", "words": "plastic"}], "contact": null, "expected": null, "fastener": null}], "bolts": [{"name": "Cam cover bolts", "bolts": [{"x_mm": 0.0, "y_mm": 70.0, "number": 1, "is_long": false, "length_mm": 38.0}, {"x_mm": 0.0, "y_mm": -70.0, "number": 2, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": 70.0, "number": 3, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": -70.0, "number": 4, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": 70.0, "number": 5, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": -70.0, "number": 6, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": 70.0, "number": 7, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": -70.0, "number": 8, "is_long": false, "length_mm": 38.0}, {"x_mm": 224.0, "y_mm": 0.0, "number": 9, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": 70.0, "number": 10, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": -70.0, "number": 11, "is_long": false, "length_mm": 38.0}], "holes": "", "around": [], "fastener": "cam_cover_bolts"}], "phase": "remove", "place": "A", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Cam cover A (1-3-5) off", "tools": ["bolt card"], "begins": 46.0, "bursts": null, "fitted": [], "remedy": "It sticks: look for the forgotten bolt before prying.", "held_up": ["remove:front_cover"], "minutes": 20.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "cover", "no_return": "", "one_press": ["11", "none"], "waits_for": [], "two_person": false, "looks_right": "The card is full: eleven bolts.", "spread_minutes": 6.0}, {"ref": "remove:cam_cover_b", "why": "comes off together with the front cover", "note": "", "part": null, "text": "Loosen from outside inwards. Push each bolt into the marked card. Take cam cover B (2-4-6) off.", "tour": null, "tray": [], "verb": "remove", "about": "cam_cover_b", "asked": [{"ask": "Bolts counted out", "low": null, "code": "bolts", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 11, "fastener": null}, {"ask": "What lies inside?", "low": null, "code": "debris", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["none", "metal", "plastic"], "stage": null, "escape": null, "choices": [{"code": "none", "words": "nothing"}, {"code": "metal", "words": "metal"}, {"code": "plastic", "words": "plastic"}], "contact": null, "expected": null, "fastener": null}], "bolts": [{"name": "Cam cover bolts", "bolts": [{"x_mm": 0.0, "y_mm": 70.0, "number": 1, "is_long": false, "length_mm": 38.0}, {"x_mm": 0.0, "y_mm": -70.0, "number": 2, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": 70.0, "number": 3, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": -70.0, "number": 4, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": 70.0, "number": 5, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": -70.0, "number": 6, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": 70.0, "number": 7, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": -70.0, "number": 8, "is_long": false, "length_mm": 38.0}, {"x_mm": 224.0, "y_mm": 0.0, "number": 9, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": 70.0, "number": 10, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": -70.0, "number": 11, "is_long": false, "length_mm": 38.0}], "holes": "", "around": [], "fastener": "cam_cover_bolts"}], "phase": "remove", "place": "B", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Cam cover B (2-4-6) off", "tools": ["bolt card"], "begins": 66.0, "bursts": null, "fitted": [], "remedy": "It sticks: look for the forgotten bolt before prying.", "held_up": ["remove:front_cover"], "minutes": 20.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "cover", "no_return": "", "one_press": ["11", "none"], "waits_for": [], "two_person": false, "looks_right": "The card is full: eleven bolts.", "spread_minutes": 6.0}, {"ref": "op:drain_coolant", "why": "for the water pump", "note": "", "part": null, "text": "Drain the coolant into a clean pan. Look for metal and plastic in it.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "What lies in the pan?", "low": null, "code": "debris", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["none", "metal", "plastic"], "stage": null, "escape": null, "choices": [{"code": "none", "words": "nothing"}, {"code": "metal", "words": "metal"}, {"code": "plastic", "words": "plastic"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "prepare", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Drain the coolant", "tools": ["clean drain pan"], "begins": 86.0, "bursts": null, "fitted": [], "remedy": "Photograph what lies in the pan and enter it as debris.", "held_up": [], "minutes": 12.0, "waiting": 0.0, "cautions": ["Oil and coolant may still be hot. Gloves on, face away from the plug."], "supplies": [], "template": "drain", "no_return": "", "one_press": ["none"], "waits_for": ["op:battery_off"], "two_person": false, "looks_right": "It is clean.", "spread_minutes": 3.6}, {"ref": "op:drain_oil", "why": "for the front cover", "note": "", "part": null, "text": "Drain the engine oil into a clean pan. Look for metal and plastic in it.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "What lies in the pan?", "low": null, "code": "debris", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["none", "metal", "plastic"], "stage": null, "escape": null, "choices": [{"code": "none", "words": "nothing"}, {"code": "metal", "words": "metal"}, {"code": "plastic", "words": "plastic"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "prepare", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Drain the engine oil", "tools": ["clean drain pan"], "begins": 98.0, "bursts": null, "fitted": [], "remedy": "Photograph what lies in the pan and enter it as debris.", "held_up": [], "minutes": 12.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "drain", "no_return": "", "one_press": ["none"], "waits_for": ["op:battery_off"], "two_person": false, "looks_right": "It is clean.", "spread_minutes": 3.6}, {"ref": "op:support", "why": "for the front cover", "note": "", "part": null, "text": "Take the engine''s weight at its front, then remove the mount.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Does the engine stand?", "low": null, "code": "support", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["firm"], "stage": null, "escape": null, "choices": [{"code": "firm", "words": "firm"}, {"code": "moves", "words": "it moves"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "prepare", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Support the front of the engine", "tools": ["engine support"], "begins": 110.0, "bursts": null, "fitted": [], "remedy": "Set the support again before the last bolt.", "held_up": [], "minutes": 20.0, "waiting": 0.0, "cautions": ["Never under a load that only a jack holds. Take the weight before a mount comes off."], "supplies": [], "template": "support", "no_return": "", "one_press": ["firm"], "waits_for": ["op:battery_off"], "two_person": false, "looks_right": "The engine does not sink.", "spread_minutes": 6.0}, {"ref": "remove:accessory_belt", "why": "covers the crank pulley", "note": "", "part": null, "text": "Turn the belt tensioner back and lift the belt off. Mark its running direction.", "tour": null, "tray": [], "verb": "remove", "about": "accessory_belt", "asked": [{"ask": "How do the pulleys spin?", "low": null, "code": "pulleys", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["freely", "grinds"], "stage": null, "escape": null, "choices": [{"code": "freely", "words": "freely"}, {"code": "grinds", "words": "one grinds"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "remove", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Accessory belt off", "tools": ["long spanner"], "begins": 130.0, "bursts": null, "fitted": [], "remedy": "One grinds: that is a noise of its own. Note it before blaming a chain.", "held_up": ["remove:water_pump", "op:service_position"], "minutes": 8.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "accessory_belt", "no_return": "", "one_press": ["freely"], "waits_for": [], "two_person": false, "looks_right": "Every pulley spins freely and quietly.", "spread_minutes": 2.4}, {"ref": "remove:water_pump", "why": "covers the front cover", "note": "", "part": null, "text": "Take the water pump off. A pump with play can rattle like a chain.", "tour": null, "tray": [], "verb": "remove", "about": "water_pump", "asked": [{"ask": "Bolts counted out", "low": null, "code": "bolts", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 6, "fastener": null}], "bolts": [{"name": "Water pump bolts", "bolts": [{"x_mm": 46.0, "y_mm": 0.0, "number": 1, "is_long": false, "length_mm": 25.0}, {"x_mm": -46.0, "y_mm": 0.0, "number": 2, "is_long": false, "length_mm": 25.0}, {"x_mm": 23.0, "y_mm": 40.0, "number": 3, "is_long": false, "length_mm": 25.0}, {"x_mm": -23.0, "y_mm": -40.0, "number": 4, "is_long": false, "length_mm": 25.0}, {"x_mm": -23.0, "y_mm": 40.0, "number": 5, "is_long": false, "length_mm": 25.0}, {"x_mm": 23.0, "y_mm": -40.0, "number": 6, "is_long": false, "length_mm": 25.0}], "holes": "", "around": [], "fastener": "pump_bolts"}], "phase": "remove", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": null, "crank_deg": null, "is_locked": false, "chains_off": []}, "title": "Water pump off", "tools": [], "begins": 138.0, "bursts": null, "fitted": [], "remedy": "It sticks: look for the forgotten bolt.", "held_up": ["remove:front_cover"], "minutes": 15.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "plain", "no_return": "", "one_press": ["6"], "waits_for": ["remove:accessory_belt"], "two_person": false, "looks_right": "Off, and all its bolts counted.", "spread_minutes": 4.5}, {"ref": "op:service_position", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Turn forwards at the pulley bolt to the pulley line at its pointer. Find the stroke: thumb over the plug hole of cylinder 1: it blows on compression.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Where does the pulley line stand?", "low": null, "code": "mark", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["met"], "stage": null, "escape": null, "choices": [{"code": "met", "words": "on its mark"}, {"code": "missed", "words": "elsewhere"}], "contact": null, "expected": null, "fastener": null}, {"ask": "Compression felt?", "low": null, "code": "compression", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["yes"], "stage": null, "escape": null, "choices": [{"code": "yes", "words": "it blew"}, {"code": "no", "words": "nothing felt"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "prepare", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Service position", "tools": ["long bar"], "begins": 153.0, "bursts": null, "fitted": [], "remedy": "They do not agree: one crank turn forwards, never back.", "held_up": ["op:crank_pin", "remove:crank_pulley"], "minutes": 10.0, "waiting": 0.0, "cautions": ["Hands clear of chains and sprockets while anybody turns the crank. Call before you turn.", "Spark plugs out before turning by hand. Never force it: at a hard stop, stop."], "supplies": [], "template": "set_position", "no_return": "", "one_press": ["met", "yes"], "waits_for": ["op:plugs_out", "remove:accessory_belt"], "two_person": false, "looks_right": "Mark and compression agree.", "spread_minutes": 3.0}, {"ref": "op:crank_pin", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Crank pin: Through the block into the crank web, from outside; usually one turn off if it does not go in.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Crank pin in", "low": null, "code": "crank", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 1, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": null}], "bolts": [], "phase": "prepare", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": ["In the engine: 1 × lock of the crank."], "inside": {"crank": 1}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Crank held", "tools": ["crank pin"], "begins": 163.0, "bursts": null, "fitted": [], "remedy": "It does not go in: usually one crank turn off. Check the stroke, go on forwards.", "held_up": ["op:read_before"], "minutes": 3.0, "waiting": 0.0, "cautions": ["No starter while any tool, pin or holder is fitted."], "supplies": [], "template": "lock_crank", "no_return": "", "one_press": ["1"], "waits_for": ["op:service_position"], "two_person": false, "looks_right": "It goes in without force.", "spread_minutes": 1.0}, {"ref": "remove:crank_pulley", "why": "covers the front cover", "note": "", "part": null, "text": "Hold it with the pulley holder, never against a pin. Undo its bolt, draw the pulley off straight.", "tour": null, "tray": [], "verb": "remove", "about": "crank_pulley", "asked": [{"ask": "Bolts counted out", "low": null, "code": "bolts", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": null}], "bolts": [], "phase": "remove", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": ["In the engine: 1 × lock of the crank."], "inside": {"crank": 1}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Crank pulley off", "tools": ["pulley holder", "three-leg puller"], "begins": 166.0, "bursts": null, "fitted": [], "remedy": "The crank moved: stop, bring it back to its position forwards.", "held_up": ["remove:front_cover", "remove:front_seal"], "minutes": 15.0, "waiting": 0.0, "cautions": ["Puller square on the hub, its screw greased. Stand aside while it is under load."], "supplies": [], "template": "pulley", "no_return": "Crank pulley bolt: undone once, it is renewed.", "one_press": ["1"], "waits_for": ["op:service_position"], "two_person": false, "looks_right": "Pulley off, keyway clean, crank still on its mark.", "spread_minutes": 4.5}, {"ref": "remove:front_cover", "why": "covers the tensioner A (1-3-5)", "note": "", "part": null, "text": "Loosen from outside inwards. Push each bolt into the marked card. Take the front cover off.", "tour": null, "tray": [], "verb": "remove", "about": "front_cover", "asked": [{"ask": "Bolts counted out", "low": null, "code": "bolts", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 14, "fastener": null}], "bolts": [{"name": "Front cover bolts", "bolts": [{"x_mm": -144.0, "y_mm": 144.0, "number": 1, "is_long": false, "length_mm": 30.0}, {"x_mm": 250.0, "y_mm": 357.0, "number": 2, "is_long": false, "length_mm": 30.0}, {"x_mm": 216.0, "y_mm": 227.0, "number": 3, "is_long": false, "length_mm": 30.0}, {"x_mm": -203.0, "y_mm": 265.0, "number": 4, "is_long": false, "length_mm": 30.0}, {"x_mm": 182.0, "y_mm": 96.0, "number": 5, "is_long": false, "length_mm": 30.0}, {"x_mm": -256.0, "y_mm": 388.0, "number": 6, "is_long": false, "length_mm": 30.0}, {"x_mm": -84.0, "y_mm": 23.0, "number": 7, "is_long": false, "length_mm": 30.0}, {"x_mm": 203.0, "y_mm": 469.0, "number": 8, "is_long": false, "length_mm": 30.0}, {"x_mm": 148.0, "y_mm": -34.0, "number": 9, "is_long": true, "length_mm": 75.0}, {"x_mm": -176.0, "y_mm": 485.0, "number": 10, "is_long": false, "length_mm": 30.0}, {"x_mm": 83.0, "y_mm": 526.0, "number": 11, "is_long": false, "length_mm": 30.0}, {"x_mm": -15.0, "y_mm": -92.0, "number": 12, "is_long": true, "length_mm": 75.0}, {"x_mm": -52.0, "y_mm": 526.0, "number": 13, "is_long": false, "length_mm": 30.0}, {"x_mm": 91.0, "y_mm": -151.0, "number": 14, "is_long": true, "length_mm": 75.0}], "holes": "the three long ones round the water passage", "around": [{"name": "Crank sprocket", "x_mm": 0.0, "y_mm": 0.0, "radius_mm": 31.954022990837498}, {"name": "Idler primary sprocket", "x_mm": 0.0, "y_mm": 194.5, "radius_mm": 42.53581283768717}, {"name": "Oil pump sprocket", "x_mm": 64.804, "y_mm": -90.329, "radius_mm": 31.914919022237903}, {"name": "Intake sprocket A", "x_mm": 83.0, "y_mm": 446.2, "radius_mm": 45.894852982679424}, {"name": "Exhaust sprocket A", "x_mm": 176.5, "y_mm": 392.2, "radius_mm": 45.894852982679424}, {"name": "Exhaust sprocket B", "x_mm": -176.5, "y_mm": 392.2, "radius_mm": 45.894852982679424}, {"name": "Intake sprocket B", "x_mm": -83.0, "y_mm": 446.2, "radius_mm": 45.894852982679424}], "fastener": "cover_bolts"}], "phase": "remove", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["In the engine: 1 × lock of the crank."], "inside": {"crank": 1}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Front cover off", "tools": ["bolt card"], "begins": 181.0, "bursts": null, "fitted": [], "remedy": "It sticks: look for the forgotten bolt before prying.", "held_up": ["op:read_before", "op:paint_a"], "minutes": 35.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "cover", "no_return": "", "one_press": ["14"], "waits_for": ["remove:cam_cover_a", "remove:cam_cover_b", "remove:water_pump", "remove:crank_pulley"], "two_person": false, "looks_right": "The card is full: 14 bolts.", "spread_minutes": 10.5}, {"ref": "remove:front_seal", "why": "renewed whenever it is uncovered", "note": "", "part": null, "text": "Pull the front crank seal out of its bore without touching the shaft.", "tour": null, "tray": [], "verb": "remove", "about": "front_seal", "asked": [{"ask": "Is the bore clean?", "low": null, "code": "bore", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["clean"], "stage": null, "escape": null, "choices": [{"code": "clean", "words": "clean"}, {"code": "scored", "words": "scored"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "remove", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["In the engine: 1 × lock of the crank."], "inside": {"crank": 1}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Front crank seal off", "tools": ["seal puller"], "begins": 216.0, "bursts": null, "fitted": [], "remedy": "Dress a burr with fine cloth.", "held_up": [], "minutes": 15.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "seal", "no_return": "", "one_press": ["clean"], "waits_for": ["remove:crank_pulley"], "two_person": false, "looks_right": "Bore clean, no score on the shaft.", "spread_minutes": 4.5}, {"ref": "op:read_before", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Read every mark as it stands. Measure every plunger as it stands. Try phaser A (1-3-5) and phaser B (2-4-6) by hand against the cam.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "How do the marks stand?", "low": null, "code": "marks", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["met", "missed"], "stage": null, "escape": null, "choices": [{"code": "met", "words": "all on their marks"}, {"code": "missed", "words": "one is off and noted"}], "contact": null, "expected": null, "fastener": null}, {"ask": "Phasers locked in park?", "low": null, "code": "phaser_lock", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["locked"], "stage": null, "escape": null, "choices": [{"code": "locked", "words": "locked"}, {"code": "turns", "words": "one turns"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "remove", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["In the engine: 1 × lock of the crank."], "inside": {"crank": 1}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Read before anything is let go", "tools": ["depth gauge"], "begins": 231.0, "bursts": null, "fitted": [], "remedy": "Photograph what cannot be read.", "held_up": ["op:hold_intake", "op:hold_exhaust"], "minutes": 6.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "read_before", "no_return": "", "one_press": ["met", "locked"], "waits_for": ["op:crank_pin", "remove:front_cover"], "two_person": false, "looks_right": "All is entered, also what is wrong.", "spread_minutes": 1.8}, {"ref": "op:hold_intake", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Cam holders: One on each bank over the intake flat.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Cam holders fitted", "low": null, "code": "holders", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 2, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 2, "fastener": null}], "bolts": [], "phase": "remove", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "held", "cam_b_ex": "driven", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "In the engine: 1 × lock of the crank, 2 × cam holders."], "inside": {"crank": 1, "holders": 2}, "held_by": {"cam_a_in": "holders", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Hold the cams: cam holders", "tools": ["cam holders"], "begins": 237.0, "bursts": null, "fitted": [], "remedy": "It does not lie down: the engine is one turn off, or a cam has jumped a tooth. Note which.", "held_up": ["op:pin_a", "op:release_intake", "op:release_exhaust"], "minutes": 10.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "hold_cams", "no_return": "", "one_press": ["2"], "waits_for": ["op:read_before"], "two_person": false, "looks_right": "It lies down without force.", "spread_minutes": 3.0}, {"ref": "op:hold_exhaust", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Hexagon clamps: One on each exhaust cam''s hexagon, resting on the head: it holds the cam where it stands.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Hexagon clamps fitted", "low": null, "code": "holders", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 2, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 2, "fastener": null}], "bolts": [], "phase": "remove", "place": null, "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps."], "inside": {"crank": 1, "clamps": 2, "holders": 2}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Hold the cams: hexagon clamps", "tools": ["hexagon clamps"], "begins": 247.0, "bursts": null, "fitted": [], "remedy": "It does not lie down: the engine is one turn off, or a cam has jumped a tooth. Note which.", "held_up": ["op:pin_a", "op:release_intake", "op:release_exhaust"], "minutes": 10.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "hold_cams", "no_return": "", "one_press": ["2"], "waits_for": ["op:read_before"], "two_person": false, "looks_right": "It lies down without force.", "spread_minutes": 3.0}, {"ref": "op:paint_a", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Degrease. Paint link and tooth of secondary chain A (1-3-5) in two places; an arrow for its direction.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Painted pairs", "low": null, "code": "pairs", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 2, "fastener": null}], "bolts": [], "phase": "remove", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps."], "inside": {"crank": 1, "clamps": 2, "holders": 2}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Paint secondary chain A (1-3-5)", "tools": ["paint pen", "solvent"], "begins": 257.0, "bursts": null, "fitted": [], "remedy": "It smears: degrease again.", "held_up": ["remove:chain_a_part"], "minutes": 5.0, "waiting": 0.0, "cautions": ["Solvent fumes: ventilate, gloves on, nothing that sparks."], "supplies": [], "template": "mark_links", "no_return": "", "one_press": ["2"], "waits_for": ["remove:front_cover"], "two_person": false, "looks_right": "Dry and clear.", "spread_minutes": 1.5}, {"ref": "op:pin_a", "why": "for the tensioner A (1-3-5)", "note": "", "part": null, "text": "Press the plunger of tensioner A (1-3-5) back slowly and push a pin through.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Pins put in", "low": null, "code": "pins", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 1, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": null}], "bolts": [], "phase": "remove", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Pin tensioner A (1-3-5)", "tools": ["3 mm pin"], "begins": 262.0, "bursts": null, "fitted": [], "remedy": "It springs out again: slower, let the oil out.", "held_up": ["remove:tensioner_a"], "minutes": 5.0, "waiting": 0.0, "cautions": ["Eye protection on. A plunger or spring that slips its pin flies."], "supplies": [], "template": "retract", "no_return": "The secondary chain A (1-3-5) is only set anew at its marks from here on.", "one_press": ["1"], "waits_for": ["op:hold_intake", "op:hold_exhaust"], "two_person": false, "looks_right": "It stays back by itself.", "spread_minutes": 1.5}, {"ref": "remove:tensioner_a", "why": "covers the arm A (1-3-5)", "note": "", "part": "tensioner_a", "text": "Bolts out, one hand on the pinned plunger, take tensioner A (1-3-5) off.", "tour": null, "tray": [], "verb": "remove", "about": "tensioner_a", "asked": [{"ask": "Bolts counted out", "low": null, "code": "bolts", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 2, "fastener": null}], "bolts": [], "phase": "remove", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Tensioner A (1-3-5) off", "tools": [], "begins": 267.0, "bursts": null, "fitted": [], "remedy": "It creeps: pin it again before going on.", "held_up": ["remove:arm_a"], "minutes": 7.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "tensioner", "no_return": "", "one_press": ["2"], "waits_for": ["op:pin_a"], "two_person": false, "looks_right": "It stays pinned; no old washer is left on the block.", "spread_minutes": 2.1}, {"ref": "remove:arm_a", "why": "covers the secondary chain A (1-3-5)", "note": "", "part": "arm_a", "text": "Pivot bolt out, lift arm A (1-3-5) off. Measure the liner at its thinnest.", "tour": null, "tray": [], "verb": "remove", "about": "arm_a", "asked": [{"ask": "Pivot bolts counted out", "low": null, "code": "bolts", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": null}, {"ask": "Liner at its thinnest", "low": null, "code": "liner_mm", "high": null, "hint": "", "kind": "measure", "pins": 0, "unit": "mm", "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": null, "fastener": null}, {"ask": "Is the liner whole?", "low": null, "code": "liner", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["whole", "broken"], "stage": null, "escape": null, "choices": [{"code": "whole", "words": "whole"}, {"code": "broken", "words": "broken"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "remove", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Arm A (1-3-5) off", "tools": ["calliper"], "begins": 274.0, "bursts": null, "fitted": [], "remedy": "A piece is missing: find it before the pan closes.", "held_up": ["remove:chain_a_part"], "minutes": 6.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "arm", "no_return": "", "one_press": ["1", null, "whole"], "waits_for": ["remove:tensioner_a"], "two_person": false, "looks_right": "Whole, at least 2.5 mm thick.", "spread_minutes": 1.8}, {"ref": "remove:chain_a_part", "why": "chosen to be renewed", "note": "", "part": "chain_a", "text": "Lift secondary chain A (1-3-5) off; crank and cams stay where they are.", "tour": null, "tray": [], "verb": "remove", "about": "chain_a_part", "asked": [{"ask": "What moved?", "low": null, "code": "moved", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["none"], "stage": null, "escape": null, "choices": [{"code": "none", "words": "nothing"}, {"code": "crank", "words": "the crank"}, {"code": "cam", "words": "a cam"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "remove", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": ["chain_a"]}, "title": "Secondary chain A (1-3-5) off", "tools": [], "begins": 280.0, "bursts": null, "fitted": [], "remedy": "Something moved: stop, compare the paint, bring it back.", "held_up": [], "minutes": 12.0, "waiting": 0.0, "cautions": ["Valves and pistons can meet. Turn neither crank nor cam further than the step says."], "supplies": [], "template": "chain", "no_return": "", "one_press": ["none"], "waits_for": ["op:paint_a", "remove:arm_a"], "two_person": false, "looks_right": "Crank and cams unmoved, every painted tooth in its place.", "spread_minutes": 3.6}, {"ref": "fit:chain_a_part", "why": "chosen to be renewed", "note": "", "part": "chain_a", "text": "Start at the idler outer row: tight strand taut, all slack at arm A (1-3-5). Bring each mark to its link and count: 43 links, 23 links and 46 links.", "tour": null, "tray": [], "verb": "fit", "about": "chain_a_part", "asked": [{"ask": "Links from the mark of the idler outer row to that of intake sprocket A", "low": null, "code": "links", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 43, "fastener": null}, {"ask": "Links from the mark of intake sprocket A to that of exhaust sprocket A", "low": null, "code": "links", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 23, "fastener": null}, {"ask": "Where does the mark of the idler outer row stand?", "low": null, "code": "mark", "high": null, "hint": "", "kind": "mark", "pins": 0, "unit": null, "right": ["on_mark"], "stage": null, "escape": null, "choices": [{"code": "on_mark", "words": "on the mark"}, {"code": "late_1", "words": "one tooth late"}, {"code": "early_1", "words": "one tooth early"}], "contact": "chain_a/idler_a", "expected": null, "fastener": null}, {"ask": "Where does the dot of intake sprocket A stand?", "low": null, "code": "mark", "high": null, "hint": "", "kind": "mark", "pins": 0, "unit": null, "right": ["on_mark"], "stage": null, "escape": null, "choices": [{"code": "on_mark", "words": "on the mark"}, {"code": "late_1", "words": "one tooth late"}, {"code": "early_1", "words": "one tooth early"}], "contact": "chain_a/cam_a_in", "expected": null, "fastener": null}, {"ask": "Where does the dot of exhaust sprocket A stand?", "low": null, "code": "mark", "high": null, "hint": "", "kind": "mark", "pins": 0, "unit": null, "right": ["on_mark"], "stage": null, "escape": null, "choices": [{"code": "on_mark", "words": "on the mark"}, {"code": "late_1", "words": "one tooth late"}, {"code": "early_1", "words": "one tooth early"}], "contact": "chain_a/cam_a_ex", "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Secondary chain A (1-3-5) on", "tools": [], "begins": 292.0, "bursts": null, "fitted": [], "remedy": "Not so: lift it, move it one tooth, look again.", "held_up": ["fit:arm_a"], "minutes": 16.0, "waiting": 0.0, "cautions": ["Valves and pistons can meet. Turn neither crank nor cam further than the step says."], "supplies": [], "template": "chain", "no_return": "", "one_press": [null, null, "on_mark", "on_mark", "on_mark"], "waits_for": [], "two_person": true, "looks_right": "Marks met: 43 links, 23 links and 46 links.", "spread_minutes": 4.8}, {"ref": "fit:arm_a", "why": "covers the secondary chain A (1-3-5)", "note": "", "part": "arm_a", "text": "Arm A (1-3-5) onto its pivot.", "tour": null, "tray": [], "verb": "fit", "about": "arm_a", "asked": [{"ask": "Does it swing?", "low": null, "code": "swing", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["freely"], "stage": null, "escape": null, "choices": [{"code": "freely", "words": "freely"}, {"code": "binds", "words": "it binds"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Arm A (1-3-5) on", "tools": [], "begins": 308.0, "bursts": null, "fitted": [], "remedy": "It binds: burr on the pivot, or the wrong bolt.", "held_up": ["torque:arm_a"], "minutes": 5.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "arm", "no_return": "", "one_press": ["freely"], "waits_for": ["fit:chain_a_part"], "two_person": false, "looks_right": "It swings freely.", "spread_minutes": 1.5}, {"ref": "torque:arm_a", "why": "covers the secondary chain A (1-3-5)", "note": "The arm must swing freely afterwards.", "part": "arm_a", "text": "1 × arm pivot bolt (M8 × 34 mm, threadlocker), single: 24 Nm ± 2 (18 lbf·ft).", "tour": null, "tray": [], "verb": "torque", "about": "arm_a", "asked": [{"ask": "Arm pivot bolt counted in", "low": null, "code": null, "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": "arm_pivot"}, {"ask": "Stage 1: 24 Nm ± 2 (18 lbf·ft)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 24.0, "tolerance": 2.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "arm_pivot"}], "bolts": [], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Torque: Arm A (1-3-5)", "tools": ["10 mm socket", "torque wrench"], "begins": 313.0, "bursts": null, "fitted": [], "remedy": "Over or under: slacken, look at the bolt and its thread, start its program again from the first stage.", "held_up": ["fit:tensioner_a"], "minutes": 1.5, "waiting": 0.0, "cautions": [], "supplies": [], "template": "torque", "no_return": "", "one_press": ["1", "24 Nm"], "waits_for": ["fit:arm_a"], "two_person": false, "looks_right": "Every stage reached in its pattern; marks have not moved while tightening.", "spread_minutes": 1.0}, {"ref": "fit:tensioner_a", "why": "covers the arm A (1-3-5)", "note": "", "part": "tensioner_a", "text": "Tensioner A (1-3-5) on, held back, feed hole in line.", "tour": null, "tray": [], "verb": "fit", "about": "tensioner_a", "asked": [{"ask": "Face against the block?", "low": null, "code": "flat", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["flat"], "stage": null, "escape": null, "choices": [{"code": "flat", "words": "flat"}, {"code": "off", "words": "it stands off"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Tensioner A (1-3-5) on", "tools": [], "begins": 314.5, "bursts": null, "fitted": [], "remedy": "It stands off: a stuck washer. Take it away.", "held_up": ["torque:tensioner_a"], "minutes": 6.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "tensioner", "no_return": "", "one_press": ["flat"], "waits_for": ["torque:arm_a"], "two_person": false, "looks_right": "Flat on the block.", "spread_minutes": 1.8}, {"ref": "torque:tensioner_a", "why": "covers the arm A (1-3-5)", "note": "", "part": "tensioner_a", "text": "2 × tensioner bolts (M6 × 45 mm, dry), turn about: 12 Nm ± 1 (106 lbf·in).", "tour": null, "tray": [], "verb": "torque", "about": "tensioner_a", "asked": [{"ask": "Tensioner bolts counted in", "low": null, "code": null, "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 2, "fastener": "tensioner_bolts"}, {"ask": "Stage 1: 12 Nm ± 1 (106 lbf·in)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 12.0, "tolerance": 1.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "tensioner_bolts"}], "bolts": [], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": ["chain_a"], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps, 1 × pin of tensioner A (1-3-5)."], "inside": {"crank": 1, "clamps": 2, "holders": 2, "tensioner_a": 1}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Torque: Tensioner A (1-3-5)", "tools": ["8 mm socket", "torque wrench"], "begins": 320.5, "bursts": null, "fitted": [], "remedy": "Over or under: slacken, look at the bolt and its thread, start its program again from the first stage.", "held_up": ["op:pull_a"], "minutes": 2.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "torque", "no_return": "", "one_press": ["2", "12 Nm"], "waits_for": ["fit:tensioner_a"], "two_person": false, "looks_right": "Every stage reached in its pattern; marks have not moved while tightening.", "spread_minutes": 1.0}, {"ref": "op:pull_a", "why": "for the tensioner A (1-3-5)", "note": "", "part": null, "text": "Marks met, tensioner torqued? Pull the pin with the arm against the chain; the plunger must come out by itself.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Pins pulled", "low": null, "code": "pins", "high": null, "hint": "count them and write the number", "kind": "count", "pins": -1, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": null}, {"ask": "Plunger out", "low": 3.5, "code": "plunger", "high": 22.8, "hint": "", "kind": "measure", "pins": 0, "unit": "mm", "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "held", "cam_b_ex": "held", "cam_b_in": "held"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the cam holders: Intake A, Intake B.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × cam holders, 2 × hexagon clamps."], "inside": {"crank": 1, "clamps": 2, "holders": 2}, "held_by": {"cam_a_ex": "clamps", "cam_a_in": "holders", "cam_b_ex": "clamps", "cam_b_in": "holders"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Release tensioner A (1-3-5)", "tools": ["depth gauge"], "begins": 322.5, "bursts": null, "fitted": [], "remedy": "More than 22.8 mm out: the chain is a link wrong. Pin it and count again.", "held_up": ["op:release_intake", "op:release_exhaust"], "minutes": 3.0, "waiting": 0.0, "cautions": ["Eye protection on. A plunger or spring that slips its pin flies."], "supplies": [], "template": "release", "no_return": "", "one_press": ["1", null], "waits_for": ["torque:tensioner_a"], "two_person": false, "looks_right": "Tight strand taut, plunger 7 mm out.", "spread_minutes": 1.0}, {"ref": "op:release_intake", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Take the cam holders off. Out, and count.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Cam holders taken off", "low": null, "code": "holders", "high": null, "hint": "count them and write the number", "kind": "count", "pins": -2, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 2, "fastener": null}], "bolts": [], "phase": "fit", "place": null, "state": {"cams": {"cam_a_ex": "held", "cam_a_in": "driven", "cam_b_ex": "held", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["The crank may not turn: a held cam hangs on it.", "Held by the hexagon clamps: Exhaust A, Exhaust B.", "In the engine: 1 × lock of the crank, 2 × hexagon clamps."], "inside": {"crank": 1, "clamps": 2}, "held_by": {"cam_a_ex": "clamps", "cam_b_ex": "clamps"}, "crank_arc": [0.0, 0.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Let the cams go: cam holders", "tools": [], "begins": 325.5, "bursts": null, "fitted": [], "remedy": "One is missing: find it before anything turns. A mark jumped: stop, pin the tensioner, set that chain again.", "held_up": ["op:crank_pin_out"], "minutes": 4.0, "waiting": 0.0, "cautions": ["A cam may move as the holder comes off. Fingers out of the sprocket."], "supplies": [], "template": "unhold", "no_return": "", "one_press": ["2"], "waits_for": ["op:hold_intake", "op:hold_exhaust", "op:pull_a"], "two_person": false, "looks_right": "The tray is full and the marks still stand.", "spread_minutes": 1.2}, {"ref": "op:release_exhaust", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Take the hexagon clamps off. Out, and count.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Hexagon clamps taken off", "low": null, "code": "holders", "high": null, "hint": "count them and write the number", "kind": "count", "pins": -2, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 2, "fastener": null}], "bolts": [], "phase": "fit", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": ["In the engine: 1 × lock of the crank."], "inside": {"crank": 1}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": true, "chains_off": []}, "title": "Let the cams go: hexagon clamps", "tools": [], "begins": 329.5, "bursts": null, "fitted": [], "remedy": "One is missing: find it before anything turns. A mark jumped: stop, pin the tensioner, set that chain again.", "held_up": ["op:crank_pin_out"], "minutes": 4.0, "waiting": 0.0, "cautions": ["A cam may move as the holder comes off. Fingers out of the sprocket."], "supplies": [], "template": "unhold", "no_return": "", "one_press": ["2"], "waits_for": ["op:hold_intake", "op:hold_exhaust", "op:pull_a"], "two_person": false, "looks_right": "The tray is full and the marks still stand.", "spread_minutes": 1.2}, {"ref": "op:crank_pin_out", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Take the crank pin out.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Crank pin taken out", "low": null, "code": "crank", "high": null, "hint": "count them and write the number", "kind": "count", "pins": -1, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": null}], "bolts": [], "phase": "fit", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Crank free", "tools": [], "begins": 333.5, "bursts": null, "fitted": [], "remedy": "It binds. Ease the crank slightly back, never forwards into a stop.", "held_up": ["op:turn_open"], "minutes": 2.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "unlock_crank", "no_return": "", "one_press": ["1"], "waits_for": ["op:release_intake", "op:release_exhaust"], "two_person": false, "looks_right": "It is out and in its tray.", "spread_minutes": 1.0}, {"ref": "op:turn_open", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Turn the crank two turns forwards by hand at the crank bolt (pulley off: an old bolt with a spacer), then on to each check. Coloured links come back after 616 turns (the engine''s own number); that is not a fault.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "How does it turn?", "low": null, "code": "turning", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["smooth"], "stage": null, "escape": null, "choices": [{"code": "smooth", "words": "smoothly"}, {"code": "stop", "words": "hard stop"}], "contact": null, "expected": null, "fastener": null}, {"ask": "Do crank keyway, line of the balance gear and line of the crank gear stand where they belong?", "low": null, "code": "marks", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["met"], "stage": null, "escape": null, "choices": [{"code": "met", "words": "all of them"}, {"code": "missed", "words": "one is off"}], "contact": null, "expected": null, "fastener": null}, {"ask": "At 0°: is each intake flat level?", "low": null, "code": "check_1", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["right"], "stage": null, "escape": null, "choices": [{"code": "right", "words": "yes"}, {"code": "wrong", "words": "no"}], "contact": null, "expected": null, "fastener": null}, {"ask": "At 30°: does the exhaust gauge slide on at both banks?", "low": null, "code": "check_2", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["right"], "stage": null, "escape": null, "choices": [{"code": "right", "words": "yes"}, {"code": "wrong", "words": "no"}], "contact": null, "expected": null, "fastener": null}, {"ask": "Do the chains ride in their guides?", "low": null, "code": "guides", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["all"], "stage": null, "escape": null, "choices": [{"code": "all", "words": "all of them"}, {"code": "left", "words": "one has left"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_crank", "key_crank", "dot_idler", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex", "line_balance", "line_gear"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Turn by hand before closing", "tools": ["long bar"], "begins": 335.5, "bursts": null, "fitted": [], "remedy": "A hard stop: stop, do not force it, find what touches. A mark a tooth off: pin the tensioner, lift the chain, count again.", "held_up": ["fit:front_cover"], "minutes": 12.0, "waiting": 0.0, "cautions": ["Hands clear of chains and sprockets while anybody turns the crank. Call before you turn.", "Spark plugs out before turning by hand. Never force it: at a hard stop, stop."], "supplies": [], "template": "hand_turn", "no_return": "", "one_press": ["smooth", "met", "right", "right", "all"], "waits_for": ["op:crank_pin_out"], "two_person": true, "looks_right": "Smooth all the way, every mark within its miss, every chain in its guides.", "spread_minutes": 3.6}, {"ref": "fit:front_cover", "why": "covers the tensioner A (1-3-5)", "note": "", "part": null, "text": "Pins, holders and rags counted out? Degrease both faces. A bead of sealant at the four corner joints; the cover on within 10 minutes. The front cover on its dowels.", "tour": null, "tray": [], "verb": "fit", "about": "front_cover", "asked": [{"ask": "Even bead at the four corner joints, down on its dowels?", "low": null, "code": "seal", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["right"], "stage": null, "escape": null, "choices": [{"code": "right", "words": "yes"}, {"code": "wrong", "words": "no"}], "contact": null, "expected": null, "fastener": null}], "bolts": [{"name": "Front cover bolts", "bolts": [{"x_mm": -144.0, "y_mm": 144.0, "number": 1, "is_long": false, "length_mm": 30.0}, {"x_mm": 250.0, "y_mm": 357.0, "number": 2, "is_long": false, "length_mm": 30.0}, {"x_mm": 216.0, "y_mm": 227.0, "number": 3, "is_long": false, "length_mm": 30.0}, {"x_mm": -203.0, "y_mm": 265.0, "number": 4, "is_long": false, "length_mm": 30.0}, {"x_mm": 182.0, "y_mm": 96.0, "number": 5, "is_long": false, "length_mm": 30.0}, {"x_mm": -256.0, "y_mm": 388.0, "number": 6, "is_long": false, "length_mm": 30.0}, {"x_mm": -84.0, "y_mm": 23.0, "number": 7, "is_long": false, "length_mm": 30.0}, {"x_mm": 203.0, "y_mm": 469.0, "number": 8, "is_long": false, "length_mm": 30.0}, {"x_mm": 148.0, "y_mm": -34.0, "number": 9, "is_long": true, "length_mm": 75.0}, {"x_mm": -176.0, "y_mm": 485.0, "number": 10, "is_long": false, "length_mm": 30.0}, {"x_mm": 83.0, "y_mm": 526.0, "number": 11, "is_long": false, "length_mm": 30.0}, {"x_mm": -15.0, "y_mm": -92.0, "number": 12, "is_long": true, "length_mm": 75.0}, {"x_mm": -52.0, "y_mm": 526.0, "number": 13, "is_long": false, "length_mm": 30.0}, {"x_mm": 91.0, "y_mm": -151.0, "number": 14, "is_long": true, "length_mm": 75.0}], "holes": "the three long ones round the water passage", "around": [{"name": "Crank sprocket", "x_mm": 0.0, "y_mm": 0.0, "radius_mm": 31.954022990837498}, {"name": "Idler primary sprocket", "x_mm": 0.0, "y_mm": 194.5, "radius_mm": 42.53581283768717}, {"name": "Oil pump sprocket", "x_mm": 64.804, "y_mm": -90.329, "radius_mm": 31.914919022237903}, {"name": "Intake sprocket A", "x_mm": 83.0, "y_mm": 446.2, "radius_mm": 45.894852982679424}, {"name": "Exhaust sprocket A", "x_mm": 176.5, "y_mm": 392.2, "radius_mm": 45.894852982679424}, {"name": "Exhaust sprocket B", "x_mm": -176.5, "y_mm": 392.2, "radius_mm": 45.894852982679424}, {"name": "Intake sprocket B", "x_mm": -83.0, "y_mm": 446.2, "radius_mm": 45.894852982679424}], "fastener": "cover_bolts"}], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Front cover on", "tools": ["plastic scraper"], "begins": 347.5, "bursts": null, "fitted": [], "remedy": "Not so: lift it at once, wipe off, seal again.", "held_up": ["torque:front_cover"], "minutes": 25.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "cover", "no_return": "", "one_press": ["right"], "waits_for": ["op:turn_open"], "two_person": false, "looks_right": "Even bead at the four corner joints, down on its dowels.", "spread_minutes": 7.5}, {"ref": "torque:front_cover", "why": "covers the tensioner A (1-3-5)", "note": "Which hole: the three long ones round the water passage.", "part": null, "text": "14 × front cover bolts (M8 × 30 and 75 mm, dry), from the middle outwards, crosswise: 10 Nm ± 1 (89 lbf·in), then 24 Nm ± 2 (18 lbf·ft).", "tour": null, "tray": [], "verb": "torque", "about": "front_cover", "asked": [{"ask": "Front cover bolts counted in", "low": null, "code": null, "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 14, "fastener": "cover_bolts"}, {"ask": "Stage 1: 10 Nm ± 1 (89 lbf·in)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 10.0, "tolerance": 1.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "cover_bolts"}, {"ask": "Stage 2: 24 Nm ± 2 (18 lbf·ft)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 24.0, "tolerance": 2.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "cover_bolts"}], "bolts": [{"name": "Front cover bolts", "bolts": [{"x_mm": -144.0, "y_mm": 144.0, "number": 1, "is_long": false, "length_mm": 30.0}, {"x_mm": 250.0, "y_mm": 357.0, "number": 2, "is_long": false, "length_mm": 30.0}, {"x_mm": 216.0, "y_mm": 227.0, "number": 3, "is_long": false, "length_mm": 30.0}, {"x_mm": -203.0, "y_mm": 265.0, "number": 4, "is_long": false, "length_mm": 30.0}, {"x_mm": 182.0, "y_mm": 96.0, "number": 5, "is_long": false, "length_mm": 30.0}, {"x_mm": -256.0, "y_mm": 388.0, "number": 6, "is_long": false, "length_mm": 30.0}, {"x_mm": -84.0, "y_mm": 23.0, "number": 7, "is_long": false, "length_mm": 30.0}, {"x_mm": 203.0, "y_mm": 469.0, "number": 8, "is_long": false, "length_mm": 30.0}, {"x_mm": 148.0, "y_mm": -34.0, "number": 9, "is_long": true, "length_mm": 75.0}, {"x_mm": -176.0, "y_mm": 485.0, "number": 10, "is_long": false, "length_mm": 30.0}, {"x_mm": 83.0, "y_mm": 526.0, "number": 11, "is_long": false, "length_mm": 30.0}, {"x_mm": -15.0, "y_mm": -92.0, "number": 12, "is_long": true, "length_mm": 75.0}, {"x_mm": -52.0, "y_mm": 526.0, "number": 13, "is_long": false, "length_mm": 30.0}, {"x_mm": 91.0, "y_mm": -151.0, "number": 14, "is_long": true, "length_mm": 75.0}], "holes": "the three long ones round the water passage", "around": [{"name": "Crank sprocket", "x_mm": 0.0, "y_mm": 0.0, "radius_mm": 31.954022990837498}, {"name": "Idler primary sprocket", "x_mm": 0.0, "y_mm": 194.5, "radius_mm": 42.53581283768717}, {"name": "Oil pump sprocket", "x_mm": 64.804, "y_mm": -90.329, "radius_mm": 31.914919022237903}, {"name": "Intake sprocket A", "x_mm": 83.0, "y_mm": 446.2, "radius_mm": 45.894852982679424}, {"name": "Exhaust sprocket A", "x_mm": 176.5, "y_mm": 392.2, "radius_mm": 45.894852982679424}, {"name": "Exhaust sprocket B", "x_mm": -176.5, "y_mm": 392.2, "radius_mm": 45.894852982679424}, {"name": "Intake sprocket B", "x_mm": -83.0, "y_mm": 446.2, "radius_mm": 45.894852982679424}], "fastener": "cover_bolts"}], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Torque: Front cover", "tools": ["10 mm socket", "torque wrench"], "begins": 372.5, "bursts": null, "fitted": [], "remedy": "Over or under: slacken, look at the bolt and its thread, start its program again from the first stage.", "held_up": ["fit:water_pump", "fit:front_seal", "fit:cam_cover_b", "fit:cam_cover_a", "op:mount_on"], "minutes": 15.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "torque", "no_return": "", "one_press": ["14", "10 Nm", "24 Nm"], "waits_for": ["fit:front_cover"], "two_person": false, "looks_right": "Every stage reached in its pattern; marks have not moved while tightening.", "spread_minutes": 4.5}, {"ref": "fit:water_pump", "why": "covers the front cover", "note": "", "part": null, "text": "New pump seal. The water pump on.", "tour": null, "tray": [], "verb": "fit", "about": "water_pump", "asked": [{"ask": "Flat on its seat?", "low": null, "code": "seated", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["flat"], "stage": null, "escape": null, "choices": [{"code": "flat", "words": "flat"}, {"code": "off", "words": "it stands off"}], "contact": null, "expected": null, "fastener": null}], "bolts": [{"name": "Water pump bolts", "bolts": [{"x_mm": 46.0, "y_mm": 0.0, "number": 1, "is_long": false, "length_mm": 25.0}, {"x_mm": -46.0, "y_mm": 0.0, "number": 2, "is_long": false, "length_mm": 25.0}, {"x_mm": 23.0, "y_mm": 40.0, "number": 3, "is_long": false, "length_mm": 25.0}, {"x_mm": -23.0, "y_mm": -40.0, "number": 4, "is_long": false, "length_mm": 25.0}, {"x_mm": -23.0, "y_mm": 40.0, "number": 5, "is_long": false, "length_mm": 25.0}, {"x_mm": 23.0, "y_mm": -40.0, "number": 6, "is_long": false, "length_mm": 25.0}], "holes": "", "around": [], "fastener": "pump_bolts"}], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Water pump on", "tools": [], "begins": 387.5, "bursts": null, "fitted": [], "remedy": "Off again, look at the face.", "held_up": ["torque:water_pump"], "minutes": 12.0, "waiting": 0.0, "cautions": [], "supplies": ["pump seal"], "template": "plain", "no_return": "", "one_press": ["flat"], "waits_for": ["torque:front_cover"], "two_person": false, "looks_right": "Flat on its seat.", "spread_minutes": 3.6}, {"ref": "fit:front_seal", "why": "renewed whenever it is uncovered", "note": "", "part": null, "text": "Press the new front crank seal in square and flush, its lip oiled.", "tour": null, "tray": [], "verb": "fit", "about": "front_seal", "asked": [{"ask": "Seal flush?", "low": null, "code": "flush", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["flush"], "stage": null, "escape": null, "choices": [{"code": "flush", "words": "flush"}, {"code": "tilted", "words": "tilted"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Front crank seal on", "tools": ["seal driver"], "begins": 399.5, "bursts": null, "fitted": [], "remedy": "Tilted: out again, and thrown away.", "held_up": ["fit:crank_pulley"], "minutes": 25.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "seal", "no_return": "", "one_press": ["flush"], "waits_for": ["torque:front_cover"], "two_person": false, "looks_right": "Flush all round.", "spread_minutes": 7.5}, {"ref": "fit:crank_pulley", "why": "covers the front cover", "note": "", "part": null, "text": "Oil the seal''s lip. Slide the pulley onto its key; an old bolt may draw it home, then out with it.", "tour": null, "tray": [], "verb": "fit", "about": "crank_pulley", "asked": [{"ask": "Pulley home?", "low": null, "code": "home", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["home"], "stage": null, "escape": null, "choices": [{"code": "home", "words": "home on its key"}, {"code": "off", "words": "it stands off"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex", "dot_b_in", "dot_b_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Crank pulley on", "tools": [], "begins": 424.5, "bursts": null, "fitted": [], "remedy": "Draw it off again and look at the key.", "held_up": ["torque:crank_pulley"], "minutes": 8.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "pulley", "no_return": "", "one_press": ["home"], "waits_for": ["fit:front_seal"], "two_person": false, "looks_right": "It stands home against the sprocket, key whole.", "spread_minutes": 2.4}, {"ref": "fit:cam_cover_b", "why": "comes off together with the front cover", "note": "", "part": null, "text": "Pins, holders and rags counted out? Degrease both faces. New gasket and plug well seals into its groove. A bead of sealant at the two joints to the front cover; the cover on within 10 minutes. Cam cover B (2-4-6) on its dowels.", "tour": null, "tray": [], "verb": "fit", "about": "cam_cover_b", "asked": [{"ask": "Even bead at the two joints to the front cover, down on its dowels?", "low": null, "code": "seal", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["right"], "stage": null, "escape": null, "choices": [{"code": "right", "words": "yes"}, {"code": "wrong", "words": "no"}], "contact": null, "expected": null, "fastener": null}], "bolts": [{"name": "Cam cover bolts", "bolts": [{"x_mm": 0.0, "y_mm": 70.0, "number": 1, "is_long": false, "length_mm": 38.0}, {"x_mm": 0.0, "y_mm": -70.0, "number": 2, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": 70.0, "number": 3, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": -70.0, "number": 4, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": 70.0, "number": 5, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": -70.0, "number": 6, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": 70.0, "number": 7, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": -70.0, "number": 8, "is_long": false, "length_mm": 38.0}, {"x_mm": 224.0, "y_mm": 0.0, "number": 9, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": 70.0, "number": 10, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": -70.0, "number": 11, "is_long": false, "length_mm": 38.0}], "holes": "", "around": [], "fastener": "cam_cover_bolts"}], "phase": "fit", "place": "B", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Cam cover B (2-4-6) on", "tools": ["plastic scraper"], "begins": 432.5, "bursts": null, "fitted": [], "remedy": "Not so: lift it at once, wipe off, seal again.", "held_up": ["torque:cam_cover_b"], "minutes": 15.0, "waiting": 0.0, "cautions": [], "supplies": ["new gasket and plug well seals"], "template": "cover", "no_return": "", "one_press": ["right"], "waits_for": ["torque:front_cover"], "two_person": false, "looks_right": "Even bead at the two joints to the front cover, down on its dowels.", "spread_minutes": 4.5}, {"ref": "torque:cam_cover_b", "why": "comes off together with the front cover", "note": "", "part": null, "text": "11 × cam cover bolts (M6 × 38 mm, dry), from the middle outwards: 10 Nm ± 1 (89 lbf·in).", "tour": null, "tray": [], "verb": "torque", "about": "cam_cover_b", "asked": [{"ask": "Cam cover bolts counted in", "low": null, "code": null, "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 11, "fastener": "cam_cover_bolts"}, {"ask": "Stage 1: 10 Nm ± 1 (89 lbf·in)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 10.0, "tolerance": 1.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "cam_cover_bolts"}], "bolts": [{"name": "Cam cover bolts", "bolts": [{"x_mm": 0.0, "y_mm": 70.0, "number": 1, "is_long": false, "length_mm": 38.0}, {"x_mm": 0.0, "y_mm": -70.0, "number": 2, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": 70.0, "number": 3, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": -70.0, "number": 4, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": 70.0, "number": 5, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": -70.0, "number": 6, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": 70.0, "number": 7, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": -70.0, "number": 8, "is_long": false, "length_mm": 38.0}, {"x_mm": 224.0, "y_mm": 0.0, "number": 9, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": 70.0, "number": 10, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": -70.0, "number": 11, "is_long": false, "length_mm": 38.0}], "holes": "", "around": [], "fastener": "cam_cover_bolts"}], "phase": "fit", "place": "B", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley", "dot_a_in", "dot_a_ex"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Torque: Cam cover B (2-4-6)", "tools": ["8 mm socket", "torque wrench"], "begins": 447.5, "bursts": null, "fitted": [], "remedy": "Over or under: slacken, look at the bolt and its thread, start its program again from the first stage.", "held_up": ["op:cure"], "minutes": 6.5, "waiting": 0.0, "cautions": [], "supplies": [], "template": "torque", "no_return": "", "one_press": ["11", "10 Nm"], "waits_for": ["fit:cam_cover_b"], "two_person": false, "looks_right": "Every stage reached in its pattern; marks have not moved while tightening.", "spread_minutes": 1.95}, {"ref": "fit:cam_cover_a", "why": "covers the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Pins, holders and rags counted out? Degrease both faces. New gasket and plug well seals into its groove. A bead of sealant at the two joints to the front cover; the cover on within 10 minutes. Cam cover A (1-3-5) on its dowels.", "tour": null, "tray": [], "verb": "fit", "about": "cam_cover_a", "asked": [{"ask": "Even bead at the two joints to the front cover, down on its dowels?", "low": null, "code": "seal", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["right"], "stage": null, "escape": null, "choices": [{"code": "right", "words": "yes"}, {"code": "wrong", "words": "no"}], "contact": null, "expected": null, "fastener": null}], "bolts": [{"name": "Cam cover bolts", "bolts": [{"x_mm": 0.0, "y_mm": 70.0, "number": 1, "is_long": false, "length_mm": 38.0}, {"x_mm": 0.0, "y_mm": -70.0, "number": 2, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": 70.0, "number": 3, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": -70.0, "number": 4, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": 70.0, "number": 5, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": -70.0, "number": 6, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": 70.0, "number": 7, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": -70.0, "number": 8, "is_long": false, "length_mm": 38.0}, {"x_mm": 224.0, "y_mm": 0.0, "number": 9, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": 70.0, "number": 10, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": -70.0, "number": 11, "is_long": false, "length_mm": 38.0}], "holes": "", "around": [], "fastener": "cam_cover_bolts"}], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Cam cover A (1-3-5) on", "tools": ["plastic scraper"], "begins": 454.0, "bursts": null, "fitted": [], "remedy": "Not so: lift it at once, wipe off, seal again.", "held_up": ["torque:cam_cover_a"], "minutes": 15.0, "waiting": 0.0, "cautions": [], "supplies": ["new gasket and plug well seals"], "template": "cover", "no_return": "", "one_press": ["right"], "waits_for": ["torque:front_cover"], "two_person": false, "looks_right": "Even bead at the two joints to the front cover, down on its dowels.", "spread_minutes": 4.5}, {"ref": "torque:cam_cover_a", "why": "covers the secondary chain A (1-3-5)", "note": "", "part": null, "text": "11 × cam cover bolts (M6 × 38 mm, dry), from the middle outwards: 10 Nm ± 1 (89 lbf·in).", "tour": null, "tray": [], "verb": "torque", "about": "cam_cover_a", "asked": [{"ask": "Cam cover bolts counted in", "low": null, "code": null, "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 11, "fastener": "cam_cover_bolts"}, {"ask": "Stage 1: 10 Nm ± 1 (89 lbf·in)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 10.0, "tolerance": 1.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "cam_cover_bolts"}], "bolts": [{"name": "Cam cover bolts", "bolts": [{"x_mm": 0.0, "y_mm": 70.0, "number": 1, "is_long": false, "length_mm": 38.0}, {"x_mm": 0.0, "y_mm": -70.0, "number": 2, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": 70.0, "number": 3, "is_long": false, "length_mm": 38.0}, {"x_mm": 100.0, "y_mm": -70.0, "number": 4, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": 70.0, "number": 5, "is_long": false, "length_mm": 38.0}, {"x_mm": -100.0, "y_mm": -70.0, "number": 6, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": 70.0, "number": 7, "is_long": false, "length_mm": 38.0}, {"x_mm": 200.0, "y_mm": -70.0, "number": 8, "is_long": false, "length_mm": 38.0}, {"x_mm": 224.0, "y_mm": 0.0, "number": 9, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": 70.0, "number": 10, "is_long": false, "length_mm": 38.0}, {"x_mm": -200.0, "y_mm": -70.0, "number": 11, "is_long": false, "length_mm": 38.0}], "holes": "", "around": [], "fastener": "cam_cover_bolts"}], "phase": "fit", "place": "A", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Torque: Cam cover A (1-3-5)", "tools": ["8 mm socket", "torque wrench"], "begins": 469.0, "bursts": null, "fitted": [], "remedy": "Over or under: slacken, look at the bolt and its thread, start its program again from the first stage.", "held_up": ["op:cure"], "minutes": 6.5, "waiting": 0.0, "cautions": [], "supplies": [], "template": "torque", "no_return": "", "one_press": ["11", "10 Nm"], "waits_for": ["fit:cam_cover_a"], "two_person": false, "looks_right": "Every stage reached in its pattern; marks have not moved while tightening.", "spread_minutes": 1.95}, {"ref": "torque:water_pump", "why": "covers the front cover", "note": "", "part": null, "text": "6 × water pump bolts (M6 × 25 mm, dry), crosswise: 10 Nm ± 1 (89 lbf·in).", "tour": null, "tray": [], "verb": "torque", "about": "water_pump", "asked": [{"ask": "Water pump bolts counted in", "low": null, "code": null, "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 6, "fastener": "pump_bolts"}, {"ask": "Stage 1: 10 Nm ± 1 (89 lbf·in)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 10.0, "tolerance": 1.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "pump_bolts"}], "bolts": [{"name": "Water pump bolts", "bolts": [{"x_mm": 46.0, "y_mm": 0.0, "number": 1, "is_long": false, "length_mm": 25.0}, {"x_mm": -46.0, "y_mm": 0.0, "number": 2, "is_long": false, "length_mm": 25.0}, {"x_mm": 23.0, "y_mm": 40.0, "number": 3, "is_long": false, "length_mm": 25.0}, {"x_mm": -23.0, "y_mm": -40.0, "number": 4, "is_long": false, "length_mm": 25.0}, {"x_mm": -23.0, "y_mm": 40.0, "number": 5, "is_long": false, "length_mm": 25.0}, {"x_mm": 23.0, "y_mm": -40.0, "number": 6, "is_long": false, "length_mm": 25.0}], "holes": "", "around": [], "fastener": "pump_bolts"}], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Torque: Water pump", "tools": ["8 mm socket", "torque wrench"], "begins": 475.5, "bursts": null, "fitted": [], "remedy": "Over or under: slacken, look at the bolt and its thread, start its program again from the first stage.", "held_up": ["fit:accessory_belt"], "minutes": 4.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "torque", "no_return": "", "one_press": ["6", "10 Nm"], "waits_for": ["fit:water_pump"], "two_person": false, "looks_right": "Every stage reached in its pattern; marks have not moved while tightening.", "spread_minutes": 1.2}, {"ref": "torque:crank_pulley", "why": "covers the front cover", "note": "Hold the crank at the pulley; never against the locking pin.", "part": null, "text": "1 × new crank pulley bolt (M14 × 62 mm, thread oiled), single, pulley held: 60 Nm ± 3 (44 lbf·ft), then turn on by 90° ± 5°, then turn on by 60° ± 5°.", "tour": null, "tray": [], "verb": "torque", "about": "crank_pulley", "asked": [{"ask": "Crank pulley bolt counted in", "low": null, "code": null, "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 1, "fastener": "pulley_bolt"}, {"ask": "Stage 1: 60 Nm ± 3 (44 lbf·ft)", "low": null, "code": null, "high": null, "hint": "in Nm, or with its unit: 18 lbf ft", "kind": "torque", "pins": 0, "unit": null, "right": [], "stage": {"kind": "torque", "value": 60.0, "tolerance": 3.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "pulley_bolt"}, {"ask": "Stage 2: turn on by 90° ± 5°", "low": null, "code": null, "high": null, "hint": "such as 90°", "kind": "angle", "pins": 0, "unit": null, "right": [], "stage": {"kind": "angle", "value": 90.0, "tolerance": 5.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "pulley_bolt"}, {"ask": "Stage 3: turn on by 60° ± 5°", "low": null, "code": null, "high": null, "hint": "such as 90°", "kind": "angle", "pins": 0, "unit": null, "right": [], "stage": {"kind": "angle", "value": 60.0, "tolerance": 5.0}, "escape": {"code": "not_measured", "words": "not measured"}, "choices": [], "contact": null, "expected": null, "fastener": "pulley_bolt"}], "bolts": [], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Torque: Crank pulley", "tools": ["21 mm socket, long bar", "torque wrench", "angle gauge"], "begins": 479.5, "bursts": null, "fitted": [], "remedy": "Over or under: slacken, look at the bolt and its thread, start its program again from the first stage.", "held_up": ["fit:accessory_belt"], "minutes": 2.5, "waiting": 0.0, "cautions": ["This bolt is stretched once. A used one is not fitted again."], "supplies": [], "template": "torque", "no_return": "", "one_press": ["1", "60 Nm", "90 deg", "60 deg"], "waits_for": ["fit:crank_pulley"], "two_person": false, "looks_right": "Every stage reached in its pattern; marks have not moved while tightening.", "spread_minutes": 1.0}, {"ref": "fit:accessory_belt", "why": "covers the crank pulley", "note": "", "part": null, "text": "Lay the belt on in its running direction.", "tour": null, "tray": [], "verb": "fit", "about": "accessory_belt", "asked": [{"ask": "Ribs in their grooves?", "low": null, "code": "ribs", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["all"], "stage": null, "escape": null, "choices": [{"code": "all", "words": "all"}, {"code": "some", "words": "not all"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "fit", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Accessory belt on", "tools": [], "begins": 482.0, "bursts": null, "fitted": [], "remedy": "Slack it off and lay it again from the crank pulley.", "held_up": ["op:turn_closed"], "minutes": 8.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "accessory_belt", "no_return": "", "one_press": ["all"], "waits_for": ["torque:water_pump", "torque:crank_pulley"], "two_person": false, "looks_right": "Every rib sits in its groove on every pulley.", "spread_minutes": 2.4}, {"ref": "op:mount_on", "why": "for the front cover", "note": "", "part": null, "text": "Mount on at the front, bolts to their torque, then let the weight down on it.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Does the mount carry?", "low": null, "code": "mount", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["carries"], "stage": null, "escape": null, "choices": [{"code": "carries", "words": "it carries"}, {"code": "crooked", "words": "it stands crooked"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Mount back at the front", "tools": [], "begins": 490.0, "bursts": null, "fitted": [], "remedy": "It does not line up: lift again, never draw it in with the bolts.", "held_up": ["op:turn_closed"], "minutes": 15.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "mount_on", "no_return": "", "one_press": ["carries"], "waits_for": ["torque:front_cover"], "two_person": false, "looks_right": "The mount carries, and the support is loose.", "spread_minutes": 4.5}, {"ref": "op:cure", "why": "for the front cover", "note": "", "part": null, "text": "Leave the joints alone for 60 minutes. No oil, no coolant.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Cure time over?", "low": null, "code": "cure", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["over"], "stage": null, "escape": null, "choices": [{"code": "over", "words": "over"}, {"code": "no", "words": "not yet"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Sealant cures", "tools": [], "begins": 505.0, "bursts": null, "fitted": [], "remedy": "Filled too early: drain, look at the joint.", "held_up": ["op:fill"], "minutes": 1.0, "waiting": 60.0, "cautions": [], "supplies": [], "template": "cure", "no_return": "", "one_press": ["over"], "waits_for": ["torque:cam_cover_b", "torque:cam_cover_a"], "two_person": false, "looks_right": "The time is over.", "spread_minutes": 1.0}, {"ref": "op:turn_closed", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Turn two turns forwards by hand at the pulley bolt, back to the mark.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "How does it turn?", "low": null, "code": "turning", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["smooth"], "stage": null, "escape": null, "choices": [{"code": "smooth", "words": "smoothly"}, {"code": "stop", "words": "hard stop"}], "contact": null, "expected": null, "fastener": null}, {"ask": "Does pulley line stand where it belongs?", "low": null, "code": "marks", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["met"], "stage": null, "escape": null, "choices": [{"code": "met", "words": "it meets"}, {"code": "missed", "words": "it misses"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Turn by hand once more, all closed", "tools": ["long bar"], "begins": 506.0, "bursts": null, "fitted": [], "remedy": "A hard stop: stop and find it. The engine does not run like this.", "held_up": ["op:plugs_in"], "minutes": 6.0, "waiting": 0.0, "cautions": ["Hands clear of chains and sprockets while anybody turns the crank. Call before you turn."], "supplies": [], "template": "hand_turn_closed", "no_return": "", "one_press": ["smooth", "met"], "waits_for": ["fit:accessory_belt", "op:mount_on"], "two_person": false, "looks_right": "Smooth, and the mark meets.", "spread_minutes": 1.8}, {"ref": "op:plugs_in", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Plugs in by hand for the first turns, then 18 Nm, dry thread. Coils and leads on.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Plugs counted in", "low": null, "code": "plugs", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 6, "fastener": null}], "bolts": [], "phase": "close", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Spark plugs in", "tools": ["plug socket", "torque wrench"], "begins": 512.0, "bursts": null, "fitted": [], "remedy": "It does not start by hand: out, look at the thread.", "held_up": ["op:plug_up", "op:fill"], "minutes": 12.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "plugs_in", "no_return": "", "one_press": ["6"], "waits_for": ["op:turn_closed"], "two_person": false, "looks_right": "Six plugs in, no well wet.", "spread_minutes": 3.6}, {"ref": "op:plug_up", "why": "for the cam cover A (1-3-5)", "note": "", "part": null, "text": "Plug in coils, cam sensors and phaser solenoids by their labels until each clicks.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Connectors plugged in", "low": null, "code": "connectors", "high": null, "hint": "count them and write the number", "kind": "count", "pins": 0, "unit": null, "right": [], "stage": null, "escape": null, "choices": [], "contact": null, "expected": 12, "fastener": null}], "bolts": [], "phase": "close", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Connectors on: coils, cam sensors and phaser solenoids", "tools": [], "begins": 524.0, "bursts": null, "fitted": [], "remedy": "A label is left over: trace the loom.", "held_up": ["op:battery_on"], "minutes": 12.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "plug_up", "no_return": "", "one_press": ["12"], "waits_for": ["op:plugs_in"], "two_person": false, "looks_right": "Twelve clicks, no label left over.", "spread_minutes": 3.6}, {"ref": "op:fill", "why": "for the front cover", "note": "", "part": null, "text": "New filter, then engine oil and coolant. Bleed the coolant at the thermostat, heater on.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Levels?", "low": null, "code": "levels", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["right"], "stage": null, "escape": null, "choices": [{"code": "right", "words": "right"}, {"code": "low", "words": "one is low"}], "contact": null, "expected": null, "fastener": null}, {"ask": "Joints?", "low": null, "code": "joints", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["dry"], "stage": null, "escape": null, "choices": [{"code": "dry", "words": "dry"}, {"code": "wet", "words": "one is wet"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": "main", "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Fill the engine oil and coolant", "tools": [], "begins": 566.0, "bursts": null, "fitted": [], "remedy": "A wet joint: stop, mark the place, seal again.", "held_up": ["op:battery_on"], "minutes": 15.0, "waiting": 0.0, "cautions": [], "supplies": ["Oil filter", "Engine oil, 5.7 L", "Coolant, 8 L"], "template": "fill", "no_return": "", "one_press": ["right", "dry"], "waits_for": ["op:cure", "op:plugs_in"], "two_person": false, "looks_right": "Levels right, joints dry.", "spread_minutes": 4.5}, {"ref": "op:battery_on", "why": "for every job on this engine", "note": "", "part": null, "text": "Tools counted? Then connect the negative lead.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Lamps?", "low": null, "code": "lamps", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["on"], "stage": null, "escape": null, "choices": [{"code": "on", "words": "they come on"}, {"code": "spark", "words": "a spark"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Battery on", "tools": [], "begins": 581.0, "bursts": null, "fitted": [], "remedy": "A spark: something draws. Off again, find it.", "held_up": ["op:prime"], "minutes": 3.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "battery_on", "no_return": "", "one_press": ["on"], "waits_for": ["op:plug_up", "op:fill"], "two_person": false, "looks_right": "Lamps come on, nothing cranks by itself.", "spread_minutes": 1.0}, {"ref": "op:prime", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Fuel and ignition disabled: crank five seconds, rest thirty, until pressure shows. Then start.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Oil pressure?", "low": null, "code": "pressure", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["shows"], "stage": null, "escape": null, "choices": [{"code": "shows", "words": "it shows"}, {"code": "none", "words": "none"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Prime the oil", "tools": [], "begins": 584.0, "bursts": {"most": 3, "rest_s": 30.0, "crank_s": 5.0}, "fitted": [], "remedy": "No pressure after the third burst: stop, look for the cause.", "held_up": ["op:relearn"], "minutes": 8.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "prime", "no_return": "", "one_press": ["shows"], "waits_for": ["op:battery_on"], "two_person": false, "looks_right": "Pressure within three bursts; the rattle is gone within seconds.", "spread_minutes": 2.4}, {"ref": "op:relearn", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Warm it up. Let the control unit relearn its base cam position, then clear the codes.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "Relearned?", "low": null, "code": "relearn", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["done"], "stage": null, "escape": null, "choices": [{"code": "done", "words": "relearned"}, {"code": "refused", "words": "refused"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Relearn the base position", "tools": [], "begins": 592.0, "bursts": null, "fitted": [], "remedy": "It refuses: capture crank and cam again before anything else.", "held_up": ["op:cold_retest"], "minutes": 12.0, "waiting": 0.0, "cautions": [], "supplies": [], "template": "relearn", "no_return": "", "one_press": ["done"], "waits_for": ["op:prime"], "two_person": false, "looks_right": "Relearned, no code comes back.", "spread_minutes": 3.6}, {"ref": "op:cold_retest", "why": "for the secondary chain A (1-3-5)", "note": "", "part": null, "text": "Let it stand 12 hours, as long as it stood when it rattled. Start it cold and listen.", "tour": null, "tray": [], "verb": "op", "about": null, "asked": [{"ask": "How does it start?", "low": null, "code": "cold", "high": null, "hint": "", "kind": "word", "pins": 0, "unit": null, "right": ["quiet"], "stage": null, "escape": null, "choices": [{"code": "quiet", "words": "quiet"}, {"code": "rattles", "words": "it rattles"}], "contact": null, "expected": null, "fastener": null}], "bolts": [], "phase": "close", "place": null, "state": {"cams": {"cam_a_ex": "driven", "cam_a_in": "driven", "cam_b_ex": "driven", "cam_b_in": "driven"}, "ends": "", "seen": ["line_pulley"], "jumps": {}, "slack": [], "words": [], "inside": {}, "held_by": {}, "crank_arc": [-360.0, 360.0], "crank_deg": 0.0, "is_locked": false, "chains_off": []}, "title": "Cold start again", "tools": [], "begins": 604.0, "bursts": null, "fitted": [], "remedy": "It rattles: capture the start, go back to Readings.", "held_up": [], "minutes": 6.0, "waiting": 720.0, "cautions": [], "supplies": [], "template": "cold_retest", "no_return": "", "one_press": ["quiet"], "waits_for": ["op:relearn"], "two_person": false, "looks_right": "Quiet from the first second.", "spread_minutes": 1.8}], "tools": ["10 mm socket", "21 mm socket, long bar", "3 mm pin", "8 mm socket", "air line", "angle gauge", "bolt card", "calliper", "cam holders", "clean drain pan", "crank pin", "depth gauge", "engine support", "hexagon clamps", "labels", "long bar", "long spanner", "paint pen", "plastic scraper", "plug socket", "pulley holder", "seal driver", "seal puller", "solvent", "three-leg puller", "torque wrench"], "access": ["accessory_belt", "crank_pulley", "cam_cover_a", "cam_cover_b", "water_pump", "front_cover", "front_seal", "tensioner_a", "arm_a", "chain_a_part"], "engine": "Ostrey Tansy", "helper": [{"steps": ["fit:chain_a_part"], "begins": 292.0, "minutes": 16.0}, {"steps": ["op:turn_open"], "begins": 335.5, "minutes": 12.0}], "notice": "The maker''s service information, local codes and a licensed technician''s judgement come first.", "changes": {"tools": 31, "helper": 2, "places": 8}, "minutes": 580.0, "renewed": ["front_seal", "chain_a_part"], "supplies": ["pump seal", "2 × new gasket and plug well seals", "Oil filter", "Engine oil, 5.7 L", "Coolant, 8 L"], "is_shortest": true, "low_minutes": 533.4987632150074, "high_minutes": 626.5012367849926, "usual_changes": {"tools": 31, "helper": 2, "places": 9}, "spread_minutes": 28.270744595783114, "elapsed_minutes": 1330.0, "waiting_minutes": 780.0, "two_person_steps": 2}, "version": 1}', true, '{"value": {}, "version": 1}', NULL, NULL, NULL, '', NULL, NULL, NULL, NULL, NULL, NULL, NULL, '', 1, NULL, NULL, NULL);



INSERT INTO public.journal VALUES (1, 1, 2, '2026-11-28 11:39:11.262579+00', 'Ivo Tarnholt', 1, 'opened', 'Job SI-0001 opened on Pilot boat Petrel (PIL-9).', '{"value": {}, "version": 1}', NULL, '0000000000000000000000000000000000000000000000000000000000000000', '60bd575ade24c48f9489ab89dd109b449285c1918152bfcbc58826b0ae9fa485');
INSERT INTO public.journal VALUES (2, 1, 3, '2026-11-28 11:39:11.737275+00', 'Ivo Tarnholt', 1, 'intake', 'Complaint: rattles cold.', '{"value": {"after": {"hours": 3000.0, "stood_h": null, "code_list": null, "complaint": "rattles cold", "hours_typed": "3000", "replaced_at": "", "replaced_at_h": null, "replaced_parts": [], "standing_hours": ""}, "before": {"hours": 3000.0}}, "version": 1}', NULL, '60bd575ade24c48f9489ab89dd109b449285c1918152bfcbc58826b0ae9fa485', '8ae4193475affdf9eb27cb3db5b1978e3ce4e9cd1ef6f5f0bef420eaf1f270f3');
INSERT INTO public.journal VALUES (3, 1, 4, '2026-11-28 11:39:11.987312+00', 'Ivo Tarnholt', 1, 'capture', 'Captured 1.2 s from simulated engine: Exhaust cam, bank B (2-4-6) 0.1° late, the furthest off.', '{"value": {"capture": 1}, "version": 1}', NULL, '8ae4193475affdf9eb27cb3db5b1978e3ce4e9cd1ef6f5f0bef420eaf1f270f3', '4fa367bf4b3820aef3fd261df0a091ab95bc5d5c2e53988e218046fd6d7b85a4');
INSERT INTO public.journal VALUES (4, 1, 5, '2026-11-28 11:39:11.998282+00', 'Ivo Tarnholt', 1, 'reading', 'Intake cam, bank A (1-3-5): typed 2.5 crank degrees, retard positive, 2.5° late at the crank, taken to be good to ±1.5° of the crank.', '{"value": {"reading": 5}, "version": 1}', NULL, '4fa367bf4b3820aef3fd261df0a091ab95bc5d5c2e53988e218046fd6d7b85a4', 'ecb3c21eb1b9d6c023540a1d8bdcf7f53882a3fb7daf8e3d921c5a59a7b5611a');
INSERT INTO public.journal VALUES (5, 1, 6, '2026-11-28 11:39:12.205935+00', 'Ivo Tarnholt', 1, 'scope', 'To renew: Secondary chain A (1-3-5). 10 parts to come off, about 9.7 h.', '{"value": {"before_plan": null, "before_scope": []}, "version": 1}', NULL, 'ecb3c21eb1b9d6c023540a1d8bdcf7f53882a3fb7daf8e3d921c5a59a7b5611a', 'f3200fa366f1dc70f99acb5d411bd65abf6b05a7d3567ef5ceab45f868d4f0cf');
INSERT INTO public.journal VALUES (6, 1, 7, '2026-11-28 11:39:12.224859+00', 'Ivo Tarnholt', 1, 'agreed', 'Harbour office said yes in writing on 2026-11-28, up to 1000000.00. Estimate: 918.17.', '{"value": {"on": "2026-11-28", "how": "writing", "kit": "", "kept": [], "most": 1000000.0, "ways": [], "owner": "Harbour office", "price": 918.1666666666666, "scope": ["chain_a_part"]}, "version": 1}', NULL, 'f3200fa366f1dc70f99acb5d411bd65abf6b05a7d3567ef5ceab45f868d4f0cf', 'e5d63081dc7213da85b6f14fcd002e643ea4ae00bcdc5a21d98375d840ce689b');
INSERT INTO public.journal VALUES (7, 1, 8, '2026-11-28 11:39:12.234806+00', 'Ivo Tarnholt', 1, 'go', '2 points of no return passed as right: first Crank pulley off.', '{"value": {"kept": [], "ways": [], "scope": ["chain_a_part"]}, "version": 1}', NULL, 'e5d63081dc7213da85b6f14fcd002e643ea4ae00bcdc5a21d98375d840ce689b', '17db7f08506b016fefa7edfd291efbb8737bd5e9885595e5bfb9629ec3412b9a');
INSERT INTO public.journal VALUES (8, 1, 9, '2026-11-28 11:39:12.256097+00', 'Ivo Tarnholt', 1, 'bench', 'Bench started: 55 steps.', '{"value": {}, "version": 1}', NULL, '17db7f08506b016fefa7edfd291efbb8737bd5e9885595e5bfb9629ec3412b9a', '92807b47a3165bc5fbee78a14f055001525caeb1f079f275d772bea321e8d877');
INSERT INTO public.journal VALUES (9, 1, 10, '2026-11-28 11:39:12.300206+00', 'Ivo Tarnholt', 1, 'step', 'Battery off: done. Lamps and horn? dead.', '{"value": {"records": [1], "reopened": [], "unproven": [], "hands_before": null}, "version": 1}', NULL, '92807b47a3165bc5fbee78a14f055001525caeb1f079f275d772bea321e8d877', 'e11c7a6fef41bde884b99874ad6759a4476b76b7e7a7b6b14174b0cd3601404e');






INSERT INTO public.meter_reading VALUES (1, 1, 3000, '2026-11-28', false, 'the depot', NULL, NULL, NULL);



INSERT INTO public.mount VALUES (1, 1, 1, 'main', '2026-11-28 11:39:10.365688+00', NULL);









INSERT INTO public.place VALUES (1, 'Slipway', false, false);





















INSERT INTO public.reading VALUES (1, 1, 'before', 'cam', 'cam_a_in', -0.013232693798451796, 0.12956096085905774, '°', '', '{"value": {}, "version": 1}', 'unknown', 0, '', 'capture of simulated engine', 1, 0.13795015859872045, 7, 'Ivo Tarnholt', 1, '2026-11-28 11:39:11.921119+00', NULL);
INSERT INTO public.reading VALUES (2, 1, 'before', 'cam', 'cam_a_ex', 0.0257821362484547, 0.12367657285147315, '°', '', '{"value": {}, "version": 1}', 'none', 0, '', 'capture of simulated engine', 1, 0.0800478360373347, 7, 'Ivo Tarnholt', 1, '2026-11-28 11:39:11.921119+00', NULL);
INSERT INTO public.reading VALUES (3, 1, 'before', 'cam', 'cam_b_in', -0.012305171562484134, 0.12736775428851968, '°', '', '{"value": {}, "version": 1}', 'unknown', 0, '', 'capture of simulated engine', 1, 0.03964504081041716, 7, 'Ivo Tarnholt', 1, '2026-11-28 11:39:11.921119+00', NULL);
INSERT INTO public.reading VALUES (4, 1, 'before', 'cam', 'cam_b_ex', 0.09543498296110305, 0.12855029139868088, '°', '', '{"value": {}, "version": 1}', 'none', 0, '', 'capture of simulated engine', 1, 0.049818202357458194, 7, 'Ivo Tarnholt', 1, '2026-11-28 11:39:11.921119+00', NULL);
INSERT INTO public.reading VALUES (5, 1, 'before', 'cam', 'cam_a_in', 2.5, 1.5, '', '', '{"value": {"is_assumed": true}, "version": 1}', 'unknown', 0, '2.5 crank degrees, retard positive', 'marks, by eye', NULL, NULL, NULL, 'Ivo Tarnholt', 1, '2026-11-28 11:39:11.99209+00', NULL);







































INSERT INTO public.unit VALUES (1, 'PIL-9', 'Pilot boat Petrel', 'pilot boat', 'Slipway', false);



INSERT INTO public.user_account VALUES (1, 'ivo', 'Ivo Tarnholt', 'technician', '$argon2id$v=19$m=65536,t=3,p=4$YzSexmWOBpYh3FTjfUkr+A$+R3Hdwh5vxvrSsdKUWLozLTH8JGdBZofqhw5d0Peo/E', true, false, NULL);









SELECT pg_catalog.setval('public.account_event_id_seq', 1, false);



SELECT pg_catalog.setval('public.addendum_id_seq', 1, false);



SELECT pg_catalog.setval('public.bench_event_id_seq', 1, false);



SELECT pg_catalog.setval('public.bench_record_id_seq', 1, true);



SELECT pg_catalog.setval('public.capture_id_seq', 1, true);



SELECT pg_catalog.setval('public.drive_log_id_seq', 1, false);



SELECT pg_catalog.setval('public.engine_book_id_seq', 1, true);



SELECT pg_catalog.setval('public.engine_id_seq', 1, true);



SELECT pg_catalog.setval('public.follow_up_id_seq', 1, false);



SELECT pg_catalog.setval('public.incoming_id_seq', 1, false);



SELECT pg_catalog.setval('public.job_id_seq', 1, true);



SELECT pg_catalog.setval('public.job_number', 1, true);



SELECT pg_catalog.setval('public.journal_id_seq', 9, true);



SELECT pg_catalog.setval('public.meter_reading_id_seq', 1, true);



SELECT pg_catalog.setval('public.mount_id_seq', 1, true);



SELECT pg_catalog.setval('public.order_line_id_seq', 1, false);



SELECT pg_catalog.setval('public.photo_id_seq', 1, false);



SELECT pg_catalog.setval('public.place_id_seq', 1, true);



SELECT pg_catalog.setval('public.procrastinate_events_id_seq', 1, false);



SELECT pg_catalog.setval('public.procrastinate_jobs_id_seq', 1, false);



SELECT pg_catalog.setval('public.procrastinate_periodic_defers_id_seq', 1, false);



SELECT pg_catalog.setval('public.procrastinate_workers_id_seq', 1, false);



SELECT pg_catalog.setval('public.put_in_id_seq', 1, false);



SELECT pg_catalog.setval('public.reading_id_seq', 5, true);



SELECT pg_catalog.setval('public.report_id_seq', 1, false);



SELECT pg_catalog.setval('public.second_look_id_seq', 1, false);



SELECT pg_catalog.setval('public.shift_id_seq', 1, false);



SELECT pg_catalog.setval('public.shop_id_seq', 1, false);



SELECT pg_catalog.setval('public.shop_tool_id_seq', 1, false);



SELECT pg_catalog.setval('public.stock_line_id_seq', 1, false);



SELECT pg_catalog.setval('public.supplier_id_seq', 1, false);



SELECT pg_catalog.setval('public.torque_wrench_id_seq', 1, false);



SELECT pg_catalog.setval('public.unit_id_seq', 1, true);



SELECT pg_catalog.setval('public.user_account_id_seq', 1, true);



SELECT pg_catalog.setval('public.wear_line_id_seq', 1, false);



SELECT pg_catalog.setval('public.wrong_sign_in_id_seq', 1, false);



ALTER TABLE ONLY public.account_event
    ADD CONSTRAINT account_event_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.addendum
    ADD CONSTRAINT addendum_job_id_place_key UNIQUE (job_id, place);



ALTER TABLE ONLY public.addendum
    ADD CONSTRAINT addendum_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.alembic_version
    ADD CONSTRAINT alembic_version_pkc PRIMARY KEY (version_num);



ALTER TABLE ONLY public.bench_event
    ADD CONSTRAINT bench_event_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.bench_record
    ADD CONSTRAINT bench_record_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.capture_block
    ADD CONSTRAINT capture_block_pkey PRIMARY KEY (capture_id, channel, level, number);



ALTER TABLE ONLY public.capture
    ADD CONSTRAINT capture_incoming_id_key UNIQUE (incoming_id);



ALTER TABLE ONLY public.capture
    ADD CONSTRAINT capture_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.channel_map
    ADD CONSTRAINT channel_map_pkey PRIMARY KEY (signature);



ALTER TABLE ONLY public.course
    ADD CONSTRAINT course_pkey PRIMARY KEY (engine_id);



ALTER TABLE ONLY public.drive_log
    ADD CONSTRAINT drive_log_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.engine_book
    ADD CONSTRAINT engine_book_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.engine_book
    ADD CONSTRAINT engine_book_sha256_key UNIQUE (sha256);



ALTER TABLE ONLY public.engine
    ADD CONSTRAINT engine_number_key UNIQUE (number);



ALTER TABLE ONLY public.engine
    ADD CONSTRAINT engine_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.follow_up
    ADD CONSTRAINT follow_up_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.incoming_piece
    ADD CONSTRAINT incoming_piece_pkey PRIMARY KEY (incoming_id, number);



ALTER TABLE ONLY public.incoming
    ADD CONSTRAINT incoming_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_job_id_version_key UNIQUE (job_id, version);



ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.lesson
    ADD CONSTRAINT lesson_pkey PRIMARY KEY (job_id);



ALTER TABLE ONLY public.meter_reading
    ADD CONSTRAINT meter_reading_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.mount
    ADD CONSTRAINT mount_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.order_line
    ADD CONSTRAINT order_line_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.photo
    ADD CONSTRAINT photo_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.place
    ADD CONSTRAINT place_name_key UNIQUE (name);



ALTER TABLE ONLY public.place
    ADD CONSTRAINT place_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_unique UNIQUE (task_name, periodic_id, defer_timestamp);



ALTER TABLE ONLY public.procrastinate_workers
    ADD CONSTRAINT procrastinate_workers_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.pulse
    ADD CONSTRAINT pulse_pkey PRIMARY KEY (name);



ALTER TABLE ONLY public.put_in
    ADD CONSTRAINT put_in_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.report
    ADD CONSTRAINT report_job_id_key UNIQUE (job_id);



ALTER TABLE ONLY public.report
    ADD CONSTRAINT report_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.samples_let_go
    ADD CONSTRAINT samples_let_go_pkey PRIMARY KEY (capture_id);



ALTER TABLE ONLY public.second_look
    ADD CONSTRAINT second_look_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.second_look
    ADD CONSTRAINT second_look_token_key UNIQUE (token);



ALTER TABLE ONLY public.sent_once
    ADD CONSTRAINT sent_once_pkey PRIMARY KEY (key);



ALTER TABLE ONLY public.shift
    ADD CONSTRAINT shift_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.shop
    ADD CONSTRAINT shop_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.shop_tool
    ADD CONSTRAINT shop_tool_name_key UNIQUE (name);



ALTER TABLE ONLY public.shop_tool
    ADD CONSTRAINT shop_tool_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.sign_in
    ADD CONSTRAINT sign_in_pkey PRIMARY KEY (token);



ALTER TABLE ONLY public.stock_line
    ADD CONSTRAINT stock_line_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.stock_line
    ADD CONSTRAINT stock_line_stands_once UNIQUE (item, engine, place);



ALTER TABLE ONLY public.supplier
    ADD CONSTRAINT supplier_name_key UNIQUE (name);



ALTER TABLE ONLY public.supplier
    ADD CONSTRAINT supplier_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.torque_wrench
    ADD CONSTRAINT torque_wrench_name_key UNIQUE (name);



ALTER TABLE ONLY public.torque_wrench
    ADD CONSTRAINT torque_wrench_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.trusted_key
    ADD CONSTRAINT trusted_key_pkey PRIMARY KEY (public_key);



ALTER TABLE ONLY public.unit
    ADD CONSTRAINT unit_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.user_account
    ADD CONSTRAINT user_account_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.wear_line
    ADD CONSTRAINT wear_line_pkey PRIMARY KEY (id);



ALTER TABLE ONLY public.wear_line
    ADD CONSTRAINT wear_line_stands_once UNIQUE (engine, hours, part);



ALTER TABLE ONLY public.wrong_sign_in
    ADD CONSTRAINT wrong_sign_in_pkey PRIMARY KEY (id);



CREATE UNIQUE INDEX bench_event_happens_once ON public.bench_event USING btree (job_id, step, answered, kind, item, number) WHERE (NOT is_struck);



CREATE INDEX idx_procrastinate_jobs_worker_not_null ON public.procrastinate_jobs USING btree (worker_id) WHERE ((worker_id IS NOT NULL) AND (status = 'doing'::public.procrastinate_job_status));



CREATE INDEX idx_procrastinate_workers_last_heartbeat ON public.procrastinate_workers USING btree (last_heartbeat);



CREATE INDEX ix_account_event_by_id ON public.account_event USING btree (by_id);



CREATE INDEX ix_account_event_user_id ON public.account_event USING btree (user_id);



CREATE INDEX ix_addendum_by_id ON public.addendum USING btree (by_id);



CREATE INDEX ix_addendum_job_id ON public.addendum USING btree (job_id);



CREATE INDEX ix_bench_event_by_id ON public.bench_event USING btree (by_id);



CREATE INDEX ix_bench_event_job_id ON public.bench_event USING btree (job_id);



CREATE INDEX ix_bench_record_done_by_id ON public.bench_record USING btree (done_by_id);



CREATE INDEX ix_bench_record_job_id ON public.bench_record USING btree (job_id);



CREATE INDEX ix_capture_job_id ON public.capture USING btree (job_id);



CREATE INDEX ix_capture_taken_by_id ON public.capture USING btree (taken_by_id);



CREATE INDEX ix_channel_map_said_by_id ON public.channel_map USING btree (said_by_id);



CREATE INDEX ix_drive_log_job_id ON public.drive_log USING btree (job_id);



CREATE INDEX ix_drive_log_taken_by_id ON public.drive_log USING btree (taken_by_id);



CREATE INDEX ix_engine_book_adopted_by_id ON public.engine_book USING btree (adopted_by_id);



CREATE INDEX ix_engine_book_came_by_id ON public.engine_book USING btree (came_by_id);



CREATE INDEX ix_engine_book_id ON public.engine USING btree (book_id);



CREATE INDEX ix_engine_book_name ON public.engine_book USING btree (name);



CREATE INDEX ix_follow_up_done_by_id ON public.follow_up USING btree (done_by_id);



CREATE INDEX ix_follow_up_job_id ON public.follow_up USING btree (job_id);



CREATE INDEX ix_follow_up_made_by_id ON public.follow_up USING btree (made_by_id);



CREATE INDEX ix_incoming_capture_id ON public.incoming USING btree (capture_id);



CREATE INDEX ix_incoming_job_id ON public.incoming USING btree (job_id);



CREATE INDEX ix_incoming_taken_by_id ON public.incoming USING btree (taken_by_id);



CREATE INDEX ix_job_book_id ON public.job USING btree (book_id);



CREATE INDEX ix_job_comeback_of_id ON public.job USING btree (comeback_of_id);



CREATE INDEX ix_job_engine_id ON public.job USING btree (engine_id);



CREATE INDEX ix_job_imported_by_id ON public.job USING btree (imported_by_id);



CREATE UNIQUE INDEX ix_job_number ON public.job USING btree (number);



CREATE INDEX ix_job_opened_by_id ON public.job USING btree (opened_by_id);



CREATE INDEX ix_job_released_by_id ON public.job USING btree (released_by_id);



CREATE INDEX ix_job_signed_by_id ON public.job USING btree (signed_by_id);



CREATE INDEX ix_job_unit_id ON public.job USING btree (unit_id);



CREATE INDEX ix_journal_by_id ON public.journal USING btree (by_id);



CREATE INDEX ix_journal_job_id ON public.journal USING btree (job_id);



CREATE INDEX ix_journal_reverses ON public.journal USING btree (reverses);



CREATE INDEX ix_lesson_book ON public.lesson USING btree (book);



CREATE INDEX ix_lesson_engine_id ON public.lesson USING btree (engine_id);



CREATE INDEX ix_meter_reading_by_id ON public.meter_reading USING btree (by_id);



CREATE INDEX ix_meter_reading_engine_id ON public.meter_reading USING btree (engine_id);



CREATE INDEX ix_meter_reading_struck_by_id ON public.meter_reading USING btree (struck_by_id);



CREATE INDEX ix_mount_engine_id ON public.mount USING btree (engine_id);



CREATE INDEX ix_mount_unit_id ON public.mount USING btree (unit_id);



CREATE INDEX ix_order_line_supplier ON public.order_line USING btree (supplier);



CREATE INDEX ix_photo_job_id ON public.photo USING btree (job_id);



CREATE INDEX ix_photo_reading_id ON public.photo USING btree (reading_id);



CREATE INDEX ix_photo_taken_by_id ON public.photo USING btree (taken_by_id);



CREATE INDEX ix_put_in_by_id ON public.put_in USING btree (by_id);



CREATE INDEX ix_put_in_job_id ON public.put_in USING btree (job_id);



CREATE INDEX ix_reading_capture_id ON public.reading USING btree (capture_id);



CREATE INDEX ix_reading_job_id ON public.reading USING btree (job_id);



CREATE INDEX ix_reading_taken_by_id ON public.reading USING btree (taken_by_id);



CREATE INDEX ix_report_signed_by_id ON public.report USING btree (signed_by_id);



CREATE INDEX ix_second_look_asked_by_id ON public.second_look USING btree (asked_by_id);



CREATE INDEX ix_second_look_job_id ON public.second_look USING btree (job_id);



CREATE INDEX ix_sent_once_at ON public.sent_once USING btree (at);



CREATE INDEX ix_sent_once_person_id ON public.sent_once USING btree (person_id);



CREATE INDEX ix_shift_given_by_id ON public.shift USING btree (given_by_id);



CREATE INDEX ix_shift_job_id ON public.shift USING btree (job_id);



CREATE INDEX ix_shift_taken_by_id ON public.shift USING btree (taken_by_id);



CREATE INDEX ix_sign_in_known ON public.sign_in USING btree (user_id, address, begun_at);



CREATE INDEX ix_trusted_key_added_by_id ON public.trusted_key USING btree (added_by_id);



CREATE INDEX ix_trusted_key_removed_by_id ON public.trusted_key USING btree (removed_by_id);



CREATE INDEX ix_unit_place ON public.unit USING btree (place);



CREATE UNIQUE INDEX ix_unit_tag ON public.unit USING btree (tag);



CREATE UNIQUE INDEX ix_user_account_login ON public.user_account USING btree (login);



CREATE INDEX ix_wrong_sign_in_address ON public.wrong_sign_in USING btree (address, at);



CREATE INDEX ix_wrong_sign_in_login ON public.wrong_sign_in USING btree (login, at);



CREATE UNIQUE INDEX mount_engine_once ON public.mount USING btree (engine_id) WHERE (until IS NULL);



CREATE UNIQUE INDEX mount_position_once ON public.mount USING btree (unit_id, "position") WHERE (until IS NULL);



CREATE INDEX procrastinate_events_job_id_fkey_v1 ON public.procrastinate_events USING btree (job_id);



CREATE INDEX procrastinate_jobs_id_lock_idx_v1 ON public.procrastinate_jobs USING btree (id, lock) WHERE (status = ANY (ARRAY['todo'::public.procrastinate_job_status, 'doing'::public.procrastinate_job_status]));



CREATE UNIQUE INDEX procrastinate_jobs_lock_idx_v1 ON public.procrastinate_jobs USING btree (lock) WHERE (status = 'doing'::public.procrastinate_job_status);



CREATE INDEX procrastinate_jobs_priority_idx_v1 ON public.procrastinate_jobs USING btree (priority DESC, id) WHERE (status = 'todo'::public.procrastinate_job_status);



CREATE INDEX procrastinate_jobs_queue_name_idx_v1 ON public.procrastinate_jobs USING btree (queue_name);



CREATE UNIQUE INDEX procrastinate_jobs_queueing_lock_idx_v1 ON public.procrastinate_jobs USING btree (queueing_lock) WHERE (status = 'todo'::public.procrastinate_job_status);



CREATE INDEX procrastinate_periodic_defers_job_id_fkey_v1 ON public.procrastinate_periodic_defers USING btree (job_id);



CREATE UNIQUE INDEX shift_waits_once ON public.shift USING btree (job_id) WHERE (taken_at IS NULL);



CREATE TRIGGER addendum_is_append_only BEFORE DELETE OR UPDATE ON public.addendum FOR EACH ROW EXECUTE FUNCTION public.refuse_change_of_addendum();



CREATE TRIGGER addendum_is_not_emptied BEFORE TRUNCATE ON public.addendum FOR EACH STATEMENT EXECUTE FUNCTION public.refuse_change_of_addendum();



CREATE CONSTRAINT TRIGGER bench_event_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.bench_event DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER bench_event_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.bench_event FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE CONSTRAINT TRIGGER bench_record_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.bench_record DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER bench_record_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.bench_record FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE CONSTRAINT TRIGGER capture_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.capture DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER capture_block_is_kept BEFORE INSERT OR DELETE OR UPDATE ON public.capture_block FOR EACH ROW EXECUTE FUNCTION public.guard_block();



CREATE TRIGGER capture_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.capture FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE CONSTRAINT TRIGGER drive_log_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.drive_log DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER drive_log_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.drive_log FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE TRIGGER follow_up_is_answered_once BEFORE DELETE OR UPDATE ON public.follow_up FOR EACH ROW EXECUTE FUNCTION public.guard_follow_up();



CREATE TRIGGER job_is_guarded BEFORE DELETE OR UPDATE ON public.job FOR EACH ROW EXECUTE FUNCTION public.guard_job();



CREATE CONSTRAINT TRIGGER journal_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.journal DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER journal_follows BEFORE INSERT ON public.journal FOR EACH ROW EXECUTE FUNCTION public.guard_journal();



CREATE TRIGGER journal_is_append_only BEFORE DELETE OR UPDATE ON public.journal FOR EACH ROW EXECUTE FUNCTION public.refuse_change_of_journal();



CREATE TRIGGER journal_is_not_emptied BEFORE TRUNCATE ON public.journal FOR EACH STATEMENT EXECUTE FUNCTION public.refuse_change_of_journal();



CREATE TRIGGER journal_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.journal FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE CONSTRAINT TRIGGER photo_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.photo DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER photo_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.photo FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE TRIGGER procrastinate_jobs_notify_queue_job_aborted_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN (((old.abort_requested = false) AND (new.abort_requested = true) AND (new.status = 'doing'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_notify_queue_abort_job_v1();



CREATE TRIGGER procrastinate_jobs_notify_queue_job_inserted_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_notify_queue_job_inserted_v1();



CREATE TRIGGER procrastinate_trigger_abort_requested_events_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.abort_requested = true)) EXECUTE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1();



CREATE TRIGGER procrastinate_trigger_delete_jobs_v1 BEFORE DELETE ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_unlink_periodic_defers_v1();



CREATE TRIGGER procrastinate_trigger_scheduled_events_v1 AFTER INSERT OR UPDATE ON public.procrastinate_jobs FOR EACH ROW WHEN (((new.scheduled_at IS NOT NULL) AND (new.status = 'todo'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1();



CREATE TRIGGER procrastinate_trigger_status_events_insert_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1();



CREATE TRIGGER procrastinate_trigger_status_events_update_v1 AFTER UPDATE OF status ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_update_v1();



CREATE CONSTRAINT TRIGGER put_in_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.put_in DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER put_in_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.put_in FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE CONSTRAINT TRIGGER reading_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.reading DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER reading_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.reading FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE CONSTRAINT TRIGGER report_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.report DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER report_is_append_only BEFORE DELETE OR UPDATE ON public.report FOR EACH ROW EXECUTE FUNCTION public.refuse_change_of_report();



CREATE TRIGGER report_is_not_emptied BEFORE TRUNCATE ON public.report FOR EACH STATEMENT EXECUTE FUNCTION public.refuse_change_of_report();



CREATE TRIGGER report_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.report FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE TRIGGER samples_let_go_is_guarded BEFORE INSERT OR DELETE OR UPDATE ON public.samples_let_go FOR EACH ROW EXECUTE FUNCTION public.guard_letting_go();



CREATE CONSTRAINT TRIGGER second_look_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.second_look DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER second_look_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.second_look FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



CREATE CONSTRAINT TRIGGER shift_beside_a_signature AFTER INSERT OR DELETE OR UPDATE ON public.shift DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION public.guard_of_job_at_last();



CREATE TRIGGER shift_of_a_signed_job BEFORE INSERT OR DELETE OR UPDATE ON public.shift FOR EACH ROW EXECUTE FUNCTION public.guard_of_job();



ALTER TABLE ONLY public.account_event
    ADD CONSTRAINT account_event_by_id_fkey FOREIGN KEY (by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.account_event
    ADD CONSTRAINT account_event_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.addendum
    ADD CONSTRAINT addendum_by_id_fkey FOREIGN KEY (by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.addendum
    ADD CONSTRAINT addendum_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.bench_event
    ADD CONSTRAINT bench_event_by_id_fkey FOREIGN KEY (by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.bench_event
    ADD CONSTRAINT bench_event_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.bench_record
    ADD CONSTRAINT bench_record_done_by_id_fkey FOREIGN KEY (done_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.bench_record
    ADD CONSTRAINT bench_record_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.capture_block
    ADD CONSTRAINT capture_block_capture_id_fkey FOREIGN KEY (capture_id) REFERENCES public.capture(id);



ALTER TABLE ONLY public.capture
    ADD CONSTRAINT capture_incoming_id_fkey FOREIGN KEY (incoming_id) REFERENCES public.incoming(id);



ALTER TABLE ONLY public.capture
    ADD CONSTRAINT capture_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.capture
    ADD CONSTRAINT capture_taken_by_id_fkey FOREIGN KEY (taken_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.channel_map
    ADD CONSTRAINT channel_map_said_by_id_fkey FOREIGN KEY (said_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.course
    ADD CONSTRAINT course_engine_id_fkey FOREIGN KEY (engine_id) REFERENCES public.engine(id);



ALTER TABLE ONLY public.drive_log
    ADD CONSTRAINT drive_log_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.drive_log
    ADD CONSTRAINT drive_log_taken_by_id_fkey FOREIGN KEY (taken_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.engine_book
    ADD CONSTRAINT engine_book_adopted_by_id_fkey FOREIGN KEY (adopted_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.engine_book
    ADD CONSTRAINT engine_book_came_by_id_fkey FOREIGN KEY (came_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.engine
    ADD CONSTRAINT engine_book_id_fkey FOREIGN KEY (book_id) REFERENCES public.engine_book(id);



ALTER TABLE ONLY public.follow_up
    ADD CONSTRAINT follow_up_done_by_id_fkey FOREIGN KEY (done_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.follow_up
    ADD CONSTRAINT follow_up_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.follow_up
    ADD CONSTRAINT follow_up_made_by_id_fkey FOREIGN KEY (made_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.incoming
    ADD CONSTRAINT incoming_capture_id_fkey FOREIGN KEY (capture_id) REFERENCES public.capture(id);



ALTER TABLE ONLY public.incoming
    ADD CONSTRAINT incoming_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.incoming_piece
    ADD CONSTRAINT incoming_piece_incoming_id_fkey FOREIGN KEY (incoming_id) REFERENCES public.incoming(id);



ALTER TABLE ONLY public.incoming
    ADD CONSTRAINT incoming_taken_by_id_fkey FOREIGN KEY (taken_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_book_id_fkey FOREIGN KEY (book_id) REFERENCES public.engine_book(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_comeback_of_id_fkey FOREIGN KEY (comeback_of_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_engine_id_fkey FOREIGN KEY (engine_id) REFERENCES public.engine(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_imported_by_id_fkey FOREIGN KEY (imported_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_opened_by_id_fkey FOREIGN KEY (opened_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_released_by_id_fkey FOREIGN KEY (released_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_signed_by_id_fkey FOREIGN KEY (signed_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.job
    ADD CONSTRAINT job_unit_id_fkey FOREIGN KEY (unit_id) REFERENCES public.unit(id);



ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_by_id_fkey FOREIGN KEY (by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_reverses_fkey FOREIGN KEY (reverses) REFERENCES public.journal(id);



ALTER TABLE ONLY public.lesson
    ADD CONSTRAINT lesson_engine_id_fkey FOREIGN KEY (engine_id) REFERENCES public.engine(id);



ALTER TABLE ONLY public.lesson
    ADD CONSTRAINT lesson_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.meter_reading
    ADD CONSTRAINT meter_reading_by_id_fkey FOREIGN KEY (by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.meter_reading
    ADD CONSTRAINT meter_reading_engine_id_fkey FOREIGN KEY (engine_id) REFERENCES public.engine(id);



ALTER TABLE ONLY public.meter_reading
    ADD CONSTRAINT meter_reading_struck_by_id_fkey FOREIGN KEY (struck_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.mount
    ADD CONSTRAINT mount_engine_id_fkey FOREIGN KEY (engine_id) REFERENCES public.engine(id);



ALTER TABLE ONLY public.mount
    ADD CONSTRAINT mount_unit_id_fkey FOREIGN KEY (unit_id) REFERENCES public.unit(id);



ALTER TABLE ONLY public.order_line
    ADD CONSTRAINT order_line_supplier_fkey FOREIGN KEY (supplier) REFERENCES public.supplier(name) DEFERRABLE INITIALLY DEFERRED;



ALTER TABLE ONLY public.photo
    ADD CONSTRAINT photo_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.photo
    ADD CONSTRAINT photo_reading_id_fkey FOREIGN KEY (reading_id) REFERENCES public.reading(id);



ALTER TABLE ONLY public.photo
    ADD CONSTRAINT photo_taken_by_id_fkey FOREIGN KEY (taken_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id) ON DELETE CASCADE;



ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_worker_id_fkey FOREIGN KEY (worker_id) REFERENCES public.procrastinate_workers(id) ON DELETE SET NULL;



ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id);



ALTER TABLE ONLY public.put_in
    ADD CONSTRAINT put_in_by_id_fkey FOREIGN KEY (by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.put_in
    ADD CONSTRAINT put_in_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_capture_id_fkey FOREIGN KEY (capture_id) REFERENCES public.capture(id);



ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.reading
    ADD CONSTRAINT reading_taken_by_id_fkey FOREIGN KEY (taken_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.report
    ADD CONSTRAINT report_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.report
    ADD CONSTRAINT report_signed_by_id_fkey FOREIGN KEY (signed_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.samples_let_go
    ADD CONSTRAINT samples_let_go_capture_id_fkey FOREIGN KEY (capture_id) REFERENCES public.capture(id);



ALTER TABLE ONLY public.second_look
    ADD CONSTRAINT second_look_asked_by_id_fkey FOREIGN KEY (asked_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.second_look
    ADD CONSTRAINT second_look_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.sent_once
    ADD CONSTRAINT sent_once_person_id_fkey FOREIGN KEY (person_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.shift
    ADD CONSTRAINT shift_given_by_id_fkey FOREIGN KEY (given_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.shift
    ADD CONSTRAINT shift_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.job(id);



ALTER TABLE ONLY public.shift
    ADD CONSTRAINT shift_taken_by_id_fkey FOREIGN KEY (taken_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.sign_in
    ADD CONSTRAINT sign_in_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.trusted_key
    ADD CONSTRAINT trusted_key_added_by_id_fkey FOREIGN KEY (added_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.trusted_key
    ADD CONSTRAINT trusted_key_removed_by_id_fkey FOREIGN KEY (removed_by_id) REFERENCES public.user_account(id);



ALTER TABLE ONLY public.unit
    ADD CONSTRAINT unit_place_fkey FOREIGN KEY (place) REFERENCES public.place(name) ON UPDATE CASCADE;



\unrestrict Fx5TmmWJh6Ffuea0hfkW0U13SglywlBFIY1pDJbNIhfd1FbqTWSXFAGUqAZwBbT

