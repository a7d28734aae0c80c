export const Logo = () => (
  <svg width="58" height="28" viewBox="0 0 58 28" role="img" aria-label="Ojo">
    <g fill="none" stroke="currentColor" strokeWidth="3.2">
      <circle cx="11" cy="14" r="9" />
      <circle cx="46" cy="14" r="9" />
      <path d="M29 8v13.5q0 4-4.5 4" strokeLinecap="round" />
    </g>
    <circle cx="29" cy="2.6" r="2.3" fill="currentColor" />
    <circle cx="13" cy="14" r="3.6" fill="currentColor" />
    <circle cx="48.2" cy="14" r="4" fill="#ffc533" stroke="currentColor" strokeWidth="1.6" />
  </svg>
);
