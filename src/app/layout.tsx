import type { Metadata } from "next";
import type { ReactNode } from "react";
import { Providers } from "@/ui/kit/providers";
import { pageTheme } from "./page-access";
import "./globals.css";

export const metadata: Metadata = {
  title: { default: "Zigzag Lane", template: "%s · Zigzag Lane" },
  description:
    "Design how work moves, take in what arrives, watch it flow, learn from how it went.",
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  const theme = await pageTheme();
  return (
    <html lang="en" data-theme={theme}>
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
