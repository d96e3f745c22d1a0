import { Field, TextInput } from "@/ui/kit/field";
/** A password to type; browsers and their keepers of passwords know which one it is. */
export function PasswordField({
  label,
  value,
  kind,
  onChange,
}: {
  label: string;
  value: string;
  kind: "new" | "current";
  onChange: (value: string) => void;
}) {
  return (
    <Field label={label}>
      <TextInput
        type="password"
        required
        autoComplete={`${kind}-password`}
        minLength={kind === "new" ? 10 : 1}
        maxLength={128}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </Field>
  );
}
