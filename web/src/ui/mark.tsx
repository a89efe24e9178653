/** Rheon's sign: three waves. */
export function Mark({ className }: { className: string }) {
  return (
    <svg viewBox="0 0 26 22" className={`text-river ${className}`} fill="none" aria-hidden>
      {[5, 11, 17].map((y) => (
        <path
          key={y}
          d={`M1 ${y}c3-3 5-3 8 0s5 3 8 0 5-3 8 0`}
          stroke="currentColor"
          strokeWidth="2.4"
          strokeLinecap="round"
        />
      ))}
    </svg>
  );
}
