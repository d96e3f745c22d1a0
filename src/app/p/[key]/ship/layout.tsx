import type { ReactNode } from "react";
import { ShipNav } from "@/ui/ship/ship-nav";

export default async function ShipLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ key: string }>;
}) {
  const { key } = await params;
  return (
    <div className="flex h-full flex-col">
      <ShipNav projectKey={key} />
      <div className="min-h-0 flex-1">{children}</div>
    </div>
  );
}
