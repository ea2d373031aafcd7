import { Field } from "./controls";

/** The password of whoever is signed in, given once more to sign with. */
export function SignatureField({
  value,
  onChange,
}: {
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <Field
      label="Your password, as your signature"
      value={value}
      onChange={onChange}
      type="password"
      autoComplete="current-password"
    />
  );
}
