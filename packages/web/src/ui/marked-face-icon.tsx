import { createSvgIcon } from '@mui/material/utils';

/** A body seen from above a corner, one of its faces marked. */
export const MarkedFaceIcon = createSvgIcon(
  <>
    <path
      d="M12 3.2 20 7.6v8.8l-8 4.4-8-4.4V7.6z"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.8"
      strokeLinejoin="round"
    />
    <path d="M12 12 20 7.6v8.8l-8 4.4z" stroke="currentColor" strokeWidth="1.8" strokeLinejoin="round" />
    <path d="M4 7.6 12 12" fill="none" stroke="currentColor" strokeWidth="1.8" />
  </>,
  'MarkedFace',
);
