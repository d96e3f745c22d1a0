import { signedIn } from "@/app/answer";
import { alertsContract } from "@/core/alerts/contract";
import { endFeed, makeFeed } from "@/server/alerts/feed";

export const POST = signedIn(alertsContract.makeFeed, (viewer) => makeFeed(viewer));

export const DELETE = signedIn(alertsContract.endFeed, (viewer) => endFeed(viewer));
