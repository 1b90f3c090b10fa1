/** Makes `helpers.generated.ts` of each dialect from its helper files. @throws Error where a helper needs one that is not there. */
export declare const writeHelpers: () => void
