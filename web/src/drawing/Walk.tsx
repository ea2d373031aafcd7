import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { Said } from "../kit/text";
import { Plate, Row, Rows } from "./rows";
import { Upright } from "./Upright";

// Odds of a thousand to one reach the end.
const FARTHEST = Math.log(1000);

/**
 * What each reading does to a suspect's odds, the others known: from the middle to the right where
 * it speaks for it, to the left where it speaks against it.
 */
export function Walk({ evidence }: { evidence: Schemas["Evidence"][] }) {
  if (!evidence.length) return <Soft>No reading moves its odds.</Soft>;
  return (
    <Rows>
      {evidence.map((e) => {
        const far = (Math.min(Math.abs(e.log_factor), FARTHEST) / FARTHEST) * 50;
        return (
          <Row key={e.reading + e.about}>
            <span>
              {e.about} <Soft as="span">{e.number}</Soft>
            </span>
            <Said $isWhole>{e.words}</Said>
            <Plate $high={12} viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden>
              <rect
                x={e.is_for ? 50 : 50 - far}
                y={2}
                width={far}
                height={8}
                fill={e.is_for ? "var(--ink)" : "var(--steel-light)"}
              />
              <Upright at={50} high={12} />
            </Plate>
          </Row>
        );
      })}
    </Rows>
  );
}
