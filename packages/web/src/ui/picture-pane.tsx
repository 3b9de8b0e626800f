import ViewInArIcon from '@mui/icons-material/ViewInAr';
import { type ReactNode, useEffect } from 'react';
import { IconAct } from './icon-act.tsx';
import { useKept } from './kept-state.ts';
import { useModelPicture } from './model-picture.tsx';
import { isPageKey } from './page-key.ts';
import { Panes } from './panes.tsx';

/** Whether the building is shown beside a page; it stays as one sets it, page by page. */
export const usePictureShown = (name: string, isShownFirst: boolean) =>
  useKept(`picture/${name}`, isShownFirst && typeof window !== 'undefined' && window.innerWidth >= 1200);

/** Shows the building beside a page, or puts it away; D does the same. */
export function PictureButton({
  name,
  isShownFirst = false,
}: {
  readonly name: string;
  readonly isShownFirst?: boolean;
}) {
  const [isShown, setShown] = usePictureShown(name, isShownFirst);
  const Picture = useModelPicture();
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key === 'd' && isPageKey(e, '[role="grid"],[role="treegrid"]')) setShown((now) => !now);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [setShown]);
  if (!Picture) return null;
  const title = isShown ? 'Put the model beside the page away (D)' : 'The model beside the page (D)';
  return (
    <IconAct word={title} isOn={isShown} onClick={() => setShown(!isShown)}>
      <ViewInArIcon fontSize="small" />
    </IconAct>
  );
}

/** A page with the building beside it while something is selected, framed and marked there. */
export function PicturePane({
  name,
  isShownFirst = false,
  hasSelection,
  children,
}: {
  readonly name: string;
  readonly isShownFirst?: boolean;
  readonly hasSelection: boolean;
  readonly children: ReactNode;
}) {
  const [isShown] = usePictureShown(name, isShownFirst);
  const Picture = useModelPicture();
  const picture = Picture && isShown && hasSelection ? <Picture /> : null;
  return (
    <Panes name={name} left={null} right={picture}>
      {children}
    </Panes>
  );
}
