/** The application on the demo scene, driven as a person would. */
export * from "./hands";
export * from "./network";
export * from "./opening";
export * from "./seeing";
