import { createTheme, type MantineColorsTuple } from "@mantine/core";

const brick: MantineColorsTuple = [
  "#fbeee9",
  "#f3dcd4",
  "#e6b8a9",
  "#d9927b",
  "#ce7256",
  "#c7603f",
  "#b1523a",
  "#9c4632",
  "#8b3d2c",
  "#793224",
];

// Warm greys in place of Mantine's cool ones.
const gray: MantineColorsTuple = [
  "#f8f5f0",
  "#efe9df",
  "#e3dbce",
  "#d3c8b7",
  "#c0b39f",
  "#a99c88",
  "#8b7f70",
  "#655b4f",
  "#463f37",
  "#29241e",
];
const dark: MantineColorsTuple = [
  "#ece5db",
  "#cfc6ba",
  "#ada294",
  "#8a8073",
  "#6d6358",
  "#3c3630",
  "#2d2925",
  "#24211e",
  "#1b1917",
  "#141210",
];

export const theme = createTheme({
  fontFamily: '"Hanken Grotesk Variable", sans-serif',
  fontFamilyMonospace: '"JetBrains Mono Variable", monospace',
  primaryColor: "brick",
  primaryShade: { light: 7, dark: 4 },
  colors: { brick, gray, dark },
  defaultRadius: 3,
  fontSizes: { xs: "12px", sm: "13px", md: "15px", lg: "17px", xl: "20px" },
  spacing: { xs: "4px", sm: "8px", md: "12px", lg: "16px", xl: "24px" },
  headings: { fontFamily: '"Hanken Grotesk Variable", sans-serif', fontWeight: "650" },
  components: {
    Button: { defaultProps: { size: "xs", variant: "default" } },
    TextInput: { defaultProps: { size: "xs" } },
    Select: { defaultProps: { size: "xs" } },
    Autocomplete: { defaultProps: { size: "xs" } },
    Tooltip: { defaultProps: { openDelay: 300, withArrow: false } },
    Modal: { defaultProps: { transitionProps: { duration: 0 }, overlayProps: { backgroundOpacity: 0.35 } } },
  },
});
