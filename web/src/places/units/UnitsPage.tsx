import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { unitsQuery, useUnits } from "../../api/unitQueries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Button } from "../../kit/controls";
import { Columns, Line, Sheet, Soft, Stack, StageHead, TroubleNote, Waiting } from "../../kit/page";
import { EngineForm, MeterForm, MountForm } from "./EngineForms";
import { Places } from "./Places";
import { UnitForm } from "./UnitForm";
import { UnitList } from "./UnitList";

type Unit = Schemas["UnitLine"];
type Engine = Schemas["EngineLine"];
/** What is open beside the list: one thing at a time. */
type Open =
  | { what: "unit"; unit: Unit | null }
  | { what: "engine"; unit: Unit }
  | { what: "meter"; engine: Engine }
  | { what: "mount"; engine: Engine }
  | { what: "list" }
  | { what: "places" }
  | null;

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Row = styled.li<{ $isOff: boolean; $isSought: boolean }>`
  display: grid;
  gap: 4px;
  border-top: 1px solid var(--line);
  padding: 10px 0;
  ${({ $isSought }) => $isSought && "box-shadow: -10px 0 0 var(--sheet), -16px 0 0 var(--pen);"}
  opacity: ${({ $isOff }) => ($isOff ? 0.7 : 1)};
`;
const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 6px 14px;
`;
const Carried = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: center;
  padding-left: 14px;
  border-left: 3px solid var(--enamel-tint);
  @media (max-width: 700px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

/** What is open, beside the list wherever one has scrolled to; on a narrow page it comes into view. */
const Aside = styled(Stack)`
  position: sticky;
  top: 0;
  max-height: calc(100vh - 90px);
  overflow-y: auto;
  scroll-margin-top: 12px;
  @media (max-width: 1000px) {
    position: static;
    max-height: none;
    order: -1;
  }
`;

/**
 * Units, the engines they carry, and where they stand. Everybody reads meters; a lead keeps the
 * rest.
 */
export function UnitsPage() {
  const units = useQuery(unitsQuery);
  const isLead = useQuery(meQuery).data?.role === "lead";
  const { change, trouble, isBusy } = useUnits();
  const [open, setOpen] = useState<Open>(null);
  const aside = useRef<HTMLDivElement>(null);
  const sought = Number(useSearchParams()[0].get("unit"));
  const row = useRef<HTMLLIElement>(null);
  const isThere = units.data !== undefined;
  useEffect(() => {
    if (sought && isThere) row.current?.scrollIntoView({ block: "center" });
  }, [sought, isThere]);
  useEffect(() => {
    if (open) aside.current?.scrollIntoView({ block: "nearest" });
  }, [open]);
  const done = (isDone: boolean) => {
    if (isDone) setOpen(null);
  };
  if (!units.data)
    return (
      <Frame>
        <Waiting error={units.error} what="the units" />
      </Frame>
    );
  const { engines, places, books } = units.data;
  const nowhere = engines.filter((e) => e.unit_id === null);
  const free = nowhere.filter((e) => !e.is_retired);
  return (
    <Frame>
      <StageHead title="Units">
        <Soft>Engines are things of their own: baseline and hours go with them.</Soft>
      </StageHead>
      {isLead && (
        <Line>
          <Button look="main" onPress={() => setOpen({ what: "unit", unit: null })}>
            Add a unit
          </Button>
          <Button onPress={() => setOpen({ what: "list" })}>Bring in a list</Button>
          <Button onPress={() => setOpen({ what: "places" })}>Places and bays</Button>
          <a href="/api/units.csv" download>
            Take the list out
          </a>
        </Line>
      )}
      <Columns $of="minmax(0, 3fr) minmax(0, 2fr)">
        <Sheet>
          {units.data.units.length === 0 && (
            <Soft>
              No unit yet.{" "}
              {books.length
                ? isLead
                  ? "Add the first one, then mount its engine."
                  : "A lead adds the first one."
                : "First a lead takes in an engine book, under Engine books."}
            </Soft>
          )}
          <Rows>
            {units.data.units.map((u) => (
              <Row
                key={u.id}
                ref={u.id === sought ? row : undefined}
                $isOff={u.is_retired}
                $isSought={u.id === sought}
                aria-current={u.id === sought || undefined}
              >
                <Head>
                  <div>
                    <strong>{u.name}</strong>{" "}
                    <Soft as="span">
                      {u.tag} · {u.kind}
                      {u.place && ` · ${u.place}`}
                      {u.is_retired && " · retired"}
                    </Soft>
                  </div>
                  {isLead && (
                    <Line>
                      <Button
                        aria-label={`Change ${u.name}`}
                        onPress={() => setOpen({ what: "unit", unit: u })}
                      >
                        Change
                      </Button>
                      {!u.is_retired && (
                        <Button
                          aria-label={`Mount an engine on ${u.name}`}
                          onPress={() => setOpen({ what: "engine", unit: u })}
                        >
                          Mount an engine
                        </Button>
                      )}
                    </Line>
                  )}
                </Head>
                {engines
                  .filter((e) => e.unit_id === u.id)
                  .map((e) => (
                    <EngineRow key={e.id} engine={e} onOpen={setOpen} isLead={isLead} />
                  ))}
              </Row>
            ))}
          </Rows>
          {nowhere.length > 0 && (
            <>
              <h2>Mounted nowhere</h2>
              {nowhere.map((e) => (
                <EngineRow key={e.id} engine={e} onOpen={setOpen} isLead={isLead} />
              ))}
            </>
          )}
        </Sheet>
        <Aside ref={aside}>
          {(!open || open.what === "list" || open.what === "places") && (
            <TroubleNote trouble={trouble} />
          )}
          {open?.what === "unit" && (
            <UnitForm
              key={open.unit?.id ?? 0}
              trouble={trouble}
              unit={open.unit}
              places={places}
              isBusy={isBusy}
              onSave={async (body) => done(await change.unit(open.unit?.id ?? null, body))}
              onLeave={() => setOpen(null)}
            />
          )}
          {open?.what === "engine" && (
            <EngineForm
              key={open.unit.id}
              trouble={trouble}
              unit={open.unit}
              books={books}
              free={free}
              isBusy={isBusy}
              onNew={async (body) => done(await change.newEngine(body))}
              onMount={async (engine, body) => done(await change.mount(engine, body))}
              onLeave={() => setOpen(null)}
            />
          )}
          {open?.what === "mount" && (
            <MountForm
              key={open.engine.id}
              trouble={trouble}
              engine={open.engine}
              units={units.data.units.filter((u) => !u.is_retired)}
              isBusy={isBusy}
              onMount={async (body) => done(await change.mount(open.engine.id, body))}
              books={books}
              onTakeOff={async () => done(await change.takeOff(open.engine.id))}
              onChange={async (body) => done(await change.engine(open.engine.id, body))}
              onLeave={() => setOpen(null)}
            />
          )}
          {open?.what === "meter" && (
            <MeterForm
              key={open.engine.id}
              trouble={trouble}
              engine={open.engine}
              isBusy={isBusy}
              onRead={async (body) => done(await change.meter(open.engine.id, body))}
              onStrike={async () => done(await change.strike(open.engine.id))}
              onLeave={() => setOpen(null)}
            />
          )}
          {open?.what === "list" && <UnitList onLeave={() => setOpen(null)} />}
          {open?.what === "places" && (
            <Places
              places={places}
              isBusy={isBusy}
              onAdd={change.newPlace}
              onChange={change.place}
              onLeave={() => setOpen(null)}
            />
          )}
          {!open && <Soft>Choose a meter to read, or a unit to change.</Soft>}
        </Aside>
      </Columns>
    </Frame>
  );
}

function Frame({ children }: { children: React.ReactNode }) {
  return (
    <Ground>
      <TopBar>
        <Tab to="/" end>
          Yard
        </Tab>
        <Tab to="/units">Units</Tab>
      </TopBar>
      <Main>{children}</Main>
    </Ground>
  );
}

function EngineRow({
  engine,
  isLead,
  onOpen,
}: {
  engine: Engine;
  isLead: boolean;
  onOpen: (open: Open) => void;
}) {
  return (
    <Carried>
      <div>
        <strong>{engine.run_words}</strong> · {engine.book}
        <Soft>
          {engine.position ? `${engine.position} · ` : ""}
          {engine.number}
          {engine.read_on && ` · read ${engine.read_on}`}
          {engine.has_baseline && " · own baseline"}
          {engine.is_retired && " · retired"}
          {engine.in_work.length > 0 && ` · in work: ${engine.in_work.join(", ")}`}
        </Soft>
      </div>
      <Line>
        <Button
          aria-label={`Read meter: ${engine.number}`}
          onPress={() => onOpen({ what: "meter", engine })}
        >
          Read meter
        </Button>
        {isLead && (
          <Button
            aria-label={`Engine: move or change ${engine.number}`}
            onPress={() => onOpen({ what: "mount", engine })}
          >
            Engine
          </Button>
        )}
      </Line>
    </Carried>
  );
}
