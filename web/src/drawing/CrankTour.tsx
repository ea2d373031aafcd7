import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { Said } from "../kit/text";

const Way = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  font-size: var(--bench);
`;
const Here = styled.span`
  display: inline-grid;
  justify-items: center;
  padding: 6px 16px;
  border: 2px solid var(--ink);
  border-radius: 999px;
`;

/** Bolts that show one after another: which here, how far the crank is turned on to the next. */
export function CrankTour({ tour }: { tour: Schemas["Tour"] }) {
  return (
    <Way aria-label="Bolts as the crank is turned">
      {tour.stops.map((stop) => (
        <li key={stop.bolts.join()}>
          {Math.round(stop.on_deg) > 0 && <Turn deg={stop.on_deg} />}
          <Here>
            <Said $size={24}>
              {stop.bolts.length > 1 ? "Bolts" : "Bolt"} {stop.bolts.join(", ")}
            </Said>
            <Soft as="span">crank {Math.round(stop.crank_deg)}°</Soft>
          </Here>
        </li>
      ))}
      {Math.round(tour.on_deg) > 0 && (
        <li>
          <Turn deg={tour.on_deg} />
        </li>
      )}
    </Way>
  );
}

function Turn({ deg }: { deg: number }) {
  return <Said $size={24}>→ {Math.round(deg)}° on </Said>;
}
