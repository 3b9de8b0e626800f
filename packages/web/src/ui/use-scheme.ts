import { type Palette, useColorScheme, useTheme } from '@mui/material/styles';

/** Palette of the scheme in use, with its colours as figures: for drawing outside of style sheets. */
export function useSchemePalette(): Palette {
  const { colorSchemes } = useTheme() as unknown as {
    readonly colorSchemes: Record<'light' | 'dark', { readonly palette: Palette }>;
  };
  const { mode } = useColorScheme();
  return colorSchemes[mode === 'dark' ? 'dark' : 'light'].palette;
}

/** How a note beside a point of a chart looks: like any sheet of the scheme. */
export const tooltipLook = ({ background, divider, text }: Palette) => ({
  backgroundColor: background.paper,
  borderColor: divider,
  color: text.primary,
  fontSize: 13,
});
