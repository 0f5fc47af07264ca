'use client';

/** Something that is so or not. */
export function CheckField({
  label,
  checked,
  onChecked,
}: {
  label: string;
  checked: boolean;
  onChecked: (checked: boolean) => void;
}) {
  return (
    <label className="flex items-baseline justify-between gap-2 py-[5px] text-[13.5px] text-soft">
      {label}
      <input
        type="checkbox"
        checked={checked}
        onChange={(event) => onChecked(event.target.checked)}
        className="size-[15px] self-center accent-copper"
      />
    </label>
  );
}
