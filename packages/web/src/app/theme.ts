import { createTheme } from '@mui/material/styles';

/** Colours with a meaning of their own, beside the palette of the components. The only place that names colours. */
const LIGHT = {
  paper: '#F5F7F6',
  sheet: '#FFFFFF',
  hairline: '#D8DEDB',
  ink: '#15211F',
  faint: '#5F6E6A',
  petrol: '#0F4C5C',
  petrolSoft: '#E3EDEF',
  unpriced: '#E8A100',
  unpricedSoft: '#FBF0D2',
  doubled: '#7A3E9D',
  error: '#C23B1E',
  priced: '#8C9794',
  /** Bodies in the model: priced and partly priced. */
  pricedBody: '#B9C2BF',
  partly: '#D9B45A',
  selection: '#0A84A0',
  selectionSoft: '#DCEFF3',
  /** From little to much: light to petrol to ink. */
  ramp: ['#DCE9E8', '#A6CBD0', '#62A0AD', '#0F4C5C', '#15211F'],
  /** Groups told apart: as different as they can be beside each other, by lightness too. */
  groups: [
    '#0F4C5C',
    '#C98F1A',
    '#7FA9B0',
    '#6B4E71',
    '#A9BF8C',
    '#B4654A',
    '#3F6E4E',
    '#D3C3A6',
    '#4A5A78',
    '#8C9794',
  ],
};
const DARK: typeof LIGHT = {
  paper: '#0E1614',
  sheet: '#15201D',
  hairline: '#2B3935',
  ink: '#E6ECEA',
  faint: '#93A39E',
  petrol: '#6FB7C7',
  petrolSoft: '#16323A',
  unpriced: '#F0B429',
  unpricedSoft: '#3A2E0C',
  doubled: '#B787D4',
  error: '#EF7358',
  priced: '#74817D',
  pricedBody: '#56625E',
  partly: '#A98A3C',
  selection: '#3CB4CF',
  selectionSoft: '#12343D',
  ramp: ['#22393E', '#2F6470', '#4E97A6', '#8CC7D3', '#E6ECEA'],
  groups: [
    '#6FB7C7',
    '#F0B429',
    '#3C6E78',
    '#B787D4',
    '#A9BF8C',
    '#EF7358',
    '#5F9A70',
    '#8C7B5A',
    '#8296BF',
    '#74817D',
  ],
};

export type Tally = typeof LIGHT;

declare module '@mui/material/styles' {
  interface Palette {
    tally: Tally;
  }
  interface PaletteOptions {
    tally?: Tally;
  }
}

const palette = (t: Tally) => ({
  primary: { main: t.petrol },
  error: { main: t.error },
  warning: { main: t.unpriced },
  background: { default: t.paper, paper: t.sheet },
  text: { primary: t.ink, secondary: t.faint },
  divider: t.hairline,
  tally: t,
});

export const FONT = '"Atkinson Hyperlegible Next Variable", sans-serif';
export { FIGURES } from '../ui/fonts.ts';

/** The one look of the application: cool paper, white sheets, hairlines instead of shadows, dense. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme' },
  colorSchemes: { light: { palette: palette(LIGHT) }, dark: { palette: palette(DARK) } },
  shape: { borderRadius: 4 },
  // Calm: things appear where they are, without moving there.
  transitions: { create: () => 'none' },
  typography: {
    fontFamily: FONT,
    fontSize: 14,
    button: { textTransform: 'none', fontWeight: 600 },
    h1: { fontSize: 22, fontWeight: 650, letterSpacing: '-0.01em' },
    h2: { fontSize: 16, fontWeight: 650 },
    h3: { fontSize: 13, fontWeight: 650 },
    body2: { fontSize: 13 },
    caption: { fontSize: 12 },
  },
  components: {
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: {
        root: ({ theme: t }) => ({
          '&.Mui-focusVisible': { outline: `2px solid ${t.vars.palette.tally.selection}`, outlineOffset: 1 },
        }),
      },
    },
    MuiButton: {
      defaultProps: { size: 'small', disableElevation: true },
      styleOverrides: { root: { minHeight: 30, paddingInline: 12 } },
    },
    MuiIconButton: { defaultProps: { size: 'small' }, styleOverrides: { root: { borderRadius: 4 } } },
    // What has no name of its own is something that is being read.
    MuiLinearProgress: { defaultProps: { 'aria-label': 'Being read' } },
    MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiDialog: {
      defaultProps: { transitionDuration: 0 },
      styleOverrides: {
        paper: ({ theme: t }) => ({ border: `1px solid ${t.vars.palette.divider}`, boxShadow: 'none' }),
      },
    },
    MuiPopover: { defaultProps: { transitionDuration: 0 }, styleOverrides: { paper: { boxShadow: 'none' } } },
    MuiMenu: {
      defaultProps: { transitionDuration: 0 },
      styleOverrides: { paper: ({ theme: t }) => ({ border: `1px solid ${t.vars.palette.divider}` }) },
    },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiAutocomplete: {
      defaultProps: { size: 'small' },
      styleOverrides: {
        paper: ({ theme: t }) => ({ border: `1px solid ${t.vars.palette.divider}` }),
        option: { fontSize: 13 },
        inputRoot: { '&.MuiOutlinedInput-root.MuiInputBase-sizeSmall': { paddingTop: 2.5, paddingBottom: 2.5 } },
      },
    },
    // The label is 14 px in the field and 12 px on its edge; the gap in the edge is measured in the same 12 px.
    MuiInputLabel: {
      styleOverrides: {
        root: {
          fontSize: 14,
          transform: 'translate(14px, 6px)',
          '&.MuiInputLabel-shrink': { transform: 'translate(14px, -8px) scale(0.857)', maxWidth: 'calc(117% - 32px)' },
        },
      },
    },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { fontSize: 14 },
        input: { paddingBlock: 6 },
        notchedOutline: { '& legend': { fontSize: 12 } },
      },
    },
    MuiToggleButton: {
      styleOverrides: {
        root: ({ theme: t }) => ({
          color: t.vars.palette.text.secondary,
          '&.Mui-selected': { color: t.vars.palette.text.primary },
        }),
      },
    },
    MuiTooltip: { defaultProps: { enterDelay: 500 } },
    MuiDialogTitle: { styleOverrides: { root: { fontSize: 16, fontWeight: 650 } } },
    MuiCssBaseline: {
      styleOverrides: { 'html, body, #root': { height: '100%' }, body: { fontVariantNumeric: 'tabular-nums' } },
    },
  },
});
