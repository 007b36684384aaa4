declare module 'gltf-validator' {
  export function validateBytes(bytes: Uint8Array): Promise<{
    readonly issues: {
      readonly messages: readonly { readonly severity: number; readonly message: string }[];
    };
    readonly info: { readonly drawCallCount: number; readonly materialCount: number };
  }>;
}
