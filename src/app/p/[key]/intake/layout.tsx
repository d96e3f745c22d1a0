import type { ReactNode } from "react";
import { IntakeNav } from "@/ui/intake/intake-nav";

export default async function IntakeLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ key: string }>;
}) {
  return (
    <div className="flex h-full flex-col">
      <IntakeNav projectKey={(await params).key} />
      <div className="min-h-0 flex-1">{children}</div>
    </div>
  );
}
