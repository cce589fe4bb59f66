/** A link that asks for a file; the same one can be given twice. */
export function FilePick({
  label,
  accept,
  className,
  pick,
}: {
  label: string;
  accept: string;
  className: string;
  pick: (file: File) => void;
}) {
  return (
    <label className={`${className} relative cursor-pointer focus-within:outline-2`}>
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) pick(file);
          e.target.value = "";
        }}
      />
    </label>
  );
}
