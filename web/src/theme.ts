import { type MantineColorsTuple, createTheme } from '@mantine/core';

/** Slate ink, the only accent of the controls; metal, membrane and chalk colours belong to the drawing. */
const slate: MantineColorsTuple = [
  '#f1f3f4',
  '#dfe3e6',
  '#c2c9cf',
  '#a2adb6',
  '#87949f',
  '#6b7a86',
  '#54626e',
  '#3f4c57',
  '#323d47',
  '#29323b',
];

export const theme = createTheme({
  fontFamily: "'Barlow Semi Condensed', sans-serif",
  headings: { fontFamily: "'Barlow Condensed', sans-serif", fontWeight: '600' },
  colors: { slate },
  primaryColor: 'slate',
  primaryShade: 8,
  defaultRadius: 2,
  black: '#29323b',
  components: {
    Modal: { defaultProps: { overlayProps: { backgroundOpacity: 0.35 }, closeButtonProps: { 'aria-label': 'Close' } } },
    Table: { defaultProps: { captionSide: 'top' } },
    Tooltip: { defaultProps: { openDelay: 400 } },
  },
});
