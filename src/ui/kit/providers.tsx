"use client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";
import { Toaster } from "sonner";

/** What every page needs around it: held data, and the place where notices appear. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: { staleTime: 30_000, retry: false, refetchOnWindowFocus: true },
        },
      }),
  );
  // Tells tests and pictures that the page answers to clicks and keys from now on.
  useEffect(() => {
    document.documentElement.dataset.ready = "true";
  }, []);
  return (
    <QueryClientProvider client={client}>
      {children}
      {/* In the strip at the foot of the page, so that it covers nothing that is needed. */}
      <Toaster
        position="bottom-right"
        offset={{ bottom: 0, right: 16 }}
        gap={2}
        toastOptions={{
          style: {
            width: "auto",
            minWidth: 240,
            maxWidth: "min(640px, 60vw)",
            right: 0,
            padding: "3px 12px",
            minHeight: 28,
            background: "var(--ink)",
            color: "var(--paper)",
            border: "none",
            borderRadius: 3,
            fontFamily: "var(--font)",
          },
          actionButtonStyle: {
            background: "var(--paper)",
            color: "var(--ink)",
            fontWeight: 600,
            height: 20,
          },
          descriptionClassName: "!text-inherit",
        }}
      />
    </QueryClientProvider>
  );
}
