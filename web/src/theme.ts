import { createTheme, type MantineColorsTuple } from "@mantine/core";

const brick: MantineColorsTuple = ["#fbeee9", "#f3dcd4", "#e6b8a9", "#d9927b", "#ce7256", "#c7603f", "#b1523a", "#9c4632", "#8b3d2c", "#793224"];

export const theme = createTheme({
  fontFamily: '"Hanken Grotesk Variable", sans-serif',
  fontFamilyMonospace: '"JetBrains Mono Variable", monospace',
  primaryColor: "brick",
  primaryShade: { light: 7, dark: 4 },
  colors: { brick },
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
