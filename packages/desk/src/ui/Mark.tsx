/** Our own mark: a seed with two clock hands. */
export function Mark() {
  return (
    <svg viewBox="0 0 24 24" className="w-6 h-6 flex-none" aria-hidden="true">
      <path d="M12 1C16 7 20 11 20 15.5a8 8 0 0 1-16 0C4 11 8 7 12 1z" fill="var(--ink)" />
      <path
        d="M12 15.5V9.5M12 15.5l3.2 2"
        stroke="var(--card)"
        strokeWidth="1.8"
        strokeLinecap="round"
        fill="none"
      />
    </svg>
  );
}
