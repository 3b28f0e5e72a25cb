import { theme } from 'ant-design-vue'
import type { ThemeConfig } from 'ant-design-vue/es/config-provider/context'

const FONT = "'Figtree Variable', system-ui, sans-serif"

/** Colours of the component library; the rest of the look is in styles/tokens.css. */
export function antTheme(dark: boolean): ThemeConfig {
  const accent = dark ? '#9dbfb2' : '#35524a'
  return {
    algorithm: dark ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      fontFamily: FONT,
      fontSize: 14,
      colorPrimary: accent,
      colorLink: accent,
      colorInfo: accent,
      colorSuccess: dark ? '#4fb8c2' : '#006d77',
      colorWarning: dark ? '#e3b04b' : '#8a5a00',
      colorError: dark ? '#e88a7d' : '#9c2f1f',
      colorTextBase: dark ? '#eee8df' : '#2b2723',
      colorBgBase: dark ? '#211f1d' : '#fbf9f5',
      // Text on the accent, and on tooltips, whose ground is light in the dark look.
      colorTextLightSolid: dark ? '#16211d' : '#fbf9f5',
      colorBgSpotlight: dark ? '#eee8df' : '#2b2723',
      borderRadius: 5,
      controlHeight: 32,
      wireframe: false,
      motionDurationMid: '0.12s',
      motionDurationSlow: '0.16s',
    },
  }
}
