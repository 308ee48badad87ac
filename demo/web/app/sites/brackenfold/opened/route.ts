import { takeOpened } from "@/in-process/open-page";

/** Takes that a pop-up of the shop has opened. */
export const POST = (request: Request): Promise<Response> => takeOpened("brackenfold", request);
