import { type Palette, useColorScheme, useTheme } from '@mui/material/styles';

/** Palette of the scheme in use, with its colours as figures: for drawing outside of style sheets. */
export function useSchemePalette(): Palette {
  const { colorSchemes } = useTheme() as unknown as {
    readonly colorSchemes: Record<'light' | 'dark', { readonly palette: Palette }>;
  };
  const { mode } = useColorScheme();
  return colorSchemes[mode === 'dark' ? 'dark' : 'light'].palette;
}
