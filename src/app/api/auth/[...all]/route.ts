import { problemOf } from "@/app/problem";
import { auth } from "@/server/people/auth";

async function handle(request: Request): Promise<Response> {
  try {
    return await auth().handler(request);
  } catch (error) {
    return problemOf(error);
  }
}

export { handle as GET, handle as POST };
