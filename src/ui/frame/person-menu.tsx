"use client";
import {
  BellRing,
  KeyRound,
  LogOut,
  Monitor,
  Moon,
  Shapes,
  Sun,
  Users,
  type LucideIcon,
} from "lucide-react";
import { useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Initials } from "@/ui/kit/initials";
import { Menu, MenuChoice, MenuItem, MenuLink, MenuTitle } from "@/ui/kit/menu";
import { tellProblem } from "@/ui/kit/notice";
import { THEME_COOKIE, THEME_WORDS, THEMES, type Theme } from "@/ui/kit/theme";
import { sessionContract } from "@/core/people/contract";
import { ask } from "@/ui/kit/request";

const YEAR_SECONDS = 31_536_000;
const signOf = (Sign: LucideIcon) => <Sign size={16} aria-hidden="true" />;
const SIGNS = { system: Monitor, light: Sun, dark: Moon } as const;

export function PersonMenu({
  person,
  theme: first,
}: {
  person: { name: string; administrator: boolean };
  theme: Theme;
}) {
  const router = useRouter();
  const client = useQueryClient();
  const [theme, setTheme] = useState(first);
  const choose = (next: Theme) => {
    document.documentElement.dataset.theme = next;
    document.cookie = `${THEME_COOKIE}=${next}; path=/; max-age=${YEAR_SECONDS}; samesite=lax`;
    setTheme(next);
  };
  const signOut = async () => {
    try {
      await ask(sessionContract.signOut, { body: {} });
      client.clear();
      sessionStorage.clear();
      router.replace("/sign-in");
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <Menu
      align="end"
      trigger={
        <button type="button" className="rounded-full">
          <Initials name={person.name} size={30} strong />
          <span className="sr-only">: theme and sign-out</span>
        </button>
      }
    >
      <MenuTitle>{person.name}</MenuTitle>
      <MenuChoice
        label="Paper"
        value={theme}
        options={THEMES.map((each) => ({
          value: each,
          label: THEME_WORDS[each],
          sign: signOf(SIGNS[each]),
        }))}
        onChange={choose}
      />
      <MenuLink href="/account/alerts" sign={signOf(BellRing)}>
        How I hear, and my days
      </MenuLink>
      <MenuLink href="/account" sign={signOf(KeyRound)}>
        Picture and password
      </MenuLink>
      {person.administrator && (
        <>
          <MenuLink href="/people" sign={signOf(Users)}>
            Accounts
          </MenuLink>
          <MenuLink href="/parts" sign={signOf(Shapes)}>
            Parts of the screens
          </MenuLink>
        </>
      )}
      <MenuItem sign={signOf(LogOut)} onSelect={() => void signOut()}>
        Sign out
      </MenuItem>
    </Menu>
  );
}
