/** An error message at the place of the error. */
export function Complaint({ text }: { text: string }) {
  if (!text) return null;
  return (
    <p
      role="alert"
      className="col-span-3 mb-1 rounded-sm border border-error bg-[#3a1d17] px-3 py-2 text-[#f4e2dc] text-sm"
    >
      {text}
    </p>
  );
}
