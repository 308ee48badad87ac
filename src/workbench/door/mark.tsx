/** The product's mark: an eye, with the lens's colour in it. */
export function Mark() {
  return (
    <svg width="24" height="16" viewBox="0 0 24 16" aria-hidden>
      <path
        d="M1 8C5 2 9 1 12 1s7 1 11 7c-4 6-8 7-11 7S5 14 1 8Z"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.7"
      />
      <circle cx="12" cy="8" r="3.6" fill="var(--lens)" />
    </svg>
  );
}
