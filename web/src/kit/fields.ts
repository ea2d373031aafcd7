import { createContext, useContext, useEffect } from "react";

/** Called by a field with its name; what comes back is called when the field goes. */
export type Join = (name: string) => () => void;
export const FieldNames = createContext<Join | null>(null);

/** Tells the form round a field that the field is there, and says what is wrong with it itself. */
export function useFieldName(name: string | undefined) {
  const join = useContext(FieldNames);
  useEffect(() => (name && join ? join(name) : undefined), [name, join]);
}
