import { theme } from 'ant-design-vue';
import type { ThemeConfig } from 'ant-design-vue/es/config-provider/context';

/** Literal colours for the component library, whose algorithm cannot read CSS variables. */
const light = {
  action: '#0F505B',
  onAction: '#FBFDFB',
  steady: '#4A6C92',
  watch: '#7A5708',
  act: '#9E3719',
  ground: '#F1F5F2',
  surface: '#FBFDFB',
  sunk: '#E3EAE6',
  ink: '#1A2123',
  ink2: '#3E4A4C',
  ink3: '#586563',
  line: '#CCD6D1',
  lineStrong: '#76857F',
};
const shed: typeof light = {
  action: '#7FC1C4',
  onAction: '#08252A',
  steady: '#7E9FC6',
  watch: '#E9C777',
  act: '#E77B55',
  ground: '#0F1516',
  surface: '#161E20',
  sunk: '#202A2C',
  ink: '#D9E1DD',
  ink2: '#B4C0BC',
  ink3: '#8F9D9A',
  line: '#2C393B',
  lineStrong: '#71817F',
};

/** The component library in the language of the application. */
export function antTheme(dim: boolean, phone: boolean): ThemeConfig {
  const c = dim ? shed : light;
  return {
    algorithm: dim ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: c.action,
      colorInfo: c.steady,
      colorWarning: c.watch,
      colorError: c.act,
      colorSuccess: c.steady,
      colorBgLayout: c.ground,
      colorBgContainer: c.surface,
      colorBgElevated: c.surface,
      colorFillTertiary: c.sunk,
      colorText: c.ink,
      colorTextSecondary: c.ink2,
      colorTextTertiary: c.ink3,
      colorTextPlaceholder: c.ink3,
      colorBorder: c.lineStrong,
      colorBorderSecondary: c.line,
      colorLink: c.action,
      colorTextLightSolid: c.onAction,
      fontFamily: "'Atkinson Hyperlegible Next', sans-serif",
      fontSize: 14,
      lineHeight: 1.43,
      borderRadius: 3,
      borderRadiusLG: 3,
      borderRadiusSM: 3,
      borderRadiusXS: 3,
      controlHeight: phone ? 48 : 36,
      controlHeightLG: 48,
      controlHeightSM: 28,
      boxShadow: 'none',
      motionDurationMid: '0.16s',
      wireframe: false,
    },
  };
}
