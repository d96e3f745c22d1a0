import { signedIn } from "@/app/answer";
import { peopleContract } from "@/core/people/contract";
import { editAccounts, readAccounts } from "@/server/people/accounts";

export const GET = signedIn(peopleContract.accounts, (viewer) => readAccounts(viewer));

export const POST = signedIn(peopleContract.changeAccounts, (viewer, { body }) =>
  editAccounts(viewer, body),
);
