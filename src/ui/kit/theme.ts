/** The paper that a person chose; "system": as their system has it. */
export const THEMES = ["system", "light", "dark"] as const;
export type Theme = (typeof THEMES)[number];

export const THEME_WORDS: Record<Theme, string> = {
  system: "As my system has it",
  light: "Light paper",
  dark: "Dark paper",
};

export const THEME_COOKIE = "theme";

/** What a cookie says; who has chosen nothing has it as their system does. */
export const themeOf = (value: string | undefined): Theme =>
  THEMES.find((t) => t === value) ?? "system";
