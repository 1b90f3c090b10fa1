/** Compiles core/compiled to `core/src/kernels/module.generated.ts`. @throws Error where the sources do not compile. */
export declare const writeKernels: () => Promise<void>
