/** Whether the page is of a catalogue without a server: what leads out of it is not there. */
export const isStatic = "cobrikSite" in globalThis;
