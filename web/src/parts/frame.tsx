import { useState } from "react";

interface Props {
  titleId: number | null;
  number: number;
  className?: string;
  alt?: string;
}

/** A still of a title; three quiet waves where none can be had. */
export function Frame({ titleId, number, className = "", alt = "" }: Props) {
  const [failed, setFailed] = useState<string | null>(null);
  const address = `/api/shelf/titles/${titleId}/frames/${number}.jpg`;
  if (titleId === null || failed === address) {
    return (
      <span className={`flex items-center justify-center bg-sunk text-mist-line ${className}`} aria-hidden>
        <svg viewBox="0 0 26 22" className="w-8" fill="none" stroke="currentColor" strokeWidth="1.6">
          <path d="M1 5c3-3 5-3 8 0s5 3 8 0 5-3 8 0M1 11c3-3 5-3 8 0s5 3 8 0 5-3 8 0M1 17c3-3 5-3 8 0s5 3 8 0 5-3 8 0" />
        </svg>
      </span>
    );
  }
  return (
    <img
      src={address}
      alt={alt}
      loading="lazy"
      onError={() => setFailed(address)}
      className={`bg-screen ${className}`}
    />
  );
}
