import { queryOptions, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, unknownTrouble, type Schemas } from "./client";

export const unitsQuery = queryOptions({
  queryKey: ["units"],
  queryFn: () => take(client.GET("/api/units")),
});
export const shopQuery = queryOptions({
  queryKey: ["shop"],
  queryFn: () => take(client.GET("/api/shop")),
});

/** Changes of units, engines and places: each says whether it was done, and keeps its trouble. */
export function useUnits() {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [isBusy, setBusy] = useState(false);

  async function go(send: Promise<Schemas["Units"]>): Promise<boolean> {
    setBusy(true);
    try {
      queries.setQueryData(unitsQuery.queryKey, await send);
      void queries.invalidateQueries({ queryKey: ["yard"] });
      setTrouble(null);
      return true;
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : unknownTrouble(error));
      return false;
    } finally {
      setBusy(false);
    }
  }
  const of = (engine_id: number) => ({ params: { path: { engine_id } } });
  const change = {
    unit: (unit_id: number | null, body: Schemas["UnitChange"]) => {
      if (unit_id !== null)
        return go(
          take(client.PUT("/api/units/{unit_id}", { params: { path: { unit_id } }, body })),
        );
      const { tag, name, kind, place } = body;
      return go(take(client.POST("/api/units", { body: { tag, name, kind, place } })));
    },
    newEngine: (body: Schemas["EngineIn"]) => go(take(client.POST("/api/engines", { body }))),
    mount: (engine: number, body: Schemas["MountIn"]) =>
      go(take(client.POST("/api/engines/{engine_id}/mount", { ...of(engine), body }))),
    takeOff: (engine: number) =>
      go(take(client.POST("/api/engines/{engine_id}/take-off", { ...of(engine), body: {} }))),
    engine: (engine: number, body: Schemas["EngineChange"]) =>
      go(take(client.PUT("/api/engines/{engine_id}", { ...of(engine), body }))),
    strike: (engine: number) =>
      go(take(client.POST("/api/engines/{engine_id}/meter/strike", { ...of(engine), body: {} }))),
    meter: (engine: number, body: Schemas["MeterIn"]) =>
      go(take(client.POST("/api/engines/{engine_id}/meter", { ...of(engine), body }))),
    newPlace: (body: Schemas["PlaceIn"]) => go(take(client.POST("/api/places", { body }))),
    place: (place_id: number, body: Schemas["PlaceChange"]) =>
      go(take(client.PUT("/api/places/{place_id}", { params: { path: { place_id } }, body }))),
  };
  return { change, trouble, isBusy };
}

export const storesQuery = queryOptions({
  queryKey: ["stores"],
  queryFn: () => take(client.GET("/api/stores")),
});
