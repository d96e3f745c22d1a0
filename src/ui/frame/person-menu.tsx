"use client";
import { Check, KeyRound, LogOut, Monitor, Moon, Sun, Users } from "lucide-react";
import Link from "next/link";
import { DropdownMenu } from "radix-ui";
import { useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Initials } from "@/ui/kit/initials";
import { tellProblem } from "@/ui/kit/notice";
import { THEME_COOKIE, THEME_WORDS, THEMES, themeOf, type Theme } from "@/ui/kit/theme";
import { sessionContract } from "@/core/people/contract";
import { ask } from "@/ui/kit/request";

const YEAR_SECONDS = 31_536_000;
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
      router.replace("/sign-in");
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="rounded-full">
        <Initials name={person.name} size={30} strong />
        <span className="sr-only">: theme and sign-out</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={6} className="popover menu">
          <DropdownMenu.Label className="px-2 py-1 font-semibold">{person.name}</DropdownMenu.Label>
          <DropdownMenu.RadioGroup
            value={theme}
            onValueChange={(next) => choose(themeOf(next))}
            aria-label="Paper"
            className="my-1 border-y border-line py-1"
          >
            {THEMES.map((each) => {
              const Sign = SIGNS[each];
              return (
                <DropdownMenu.RadioItem
                  key={each}
                  value={each}
                  className="menu-item"
                  onSelect={(event) => event.preventDefault()}
                >
                  <Sign size={16} aria-hidden="true" />
                  <span className="flex-1">{THEME_WORDS[each]}</span>
                  <DropdownMenu.ItemIndicator>
                    <Check size={14} aria-hidden="true" />
                  </DropdownMenu.ItemIndicator>
                </DropdownMenu.RadioItem>
              );
            })}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Item asChild>
            <Link href="/account" className="menu-item">
              <KeyRound size={16} aria-hidden="true" />
              Password
            </Link>
          </DropdownMenu.Item>
          {person.administrator && (
            <DropdownMenu.Item asChild>
              <Link href="/people" className="menu-item">
                <Users size={16} aria-hidden="true" />
                Accounts
              </Link>
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item className="menu-item" onSelect={() => void signOut()}>
            <LogOut size={16} aria-hidden="true" />
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
