/** Packages that ship without types of their own. */
declare module 'gltf-validator' {
  const validator: {
    validateBytes(bytes: Uint8Array): Promise<{
      issues: { messages: Array<{ severity: number; message: string }> };
      info: { animationCount: number };
    }>;
  };
  export default validator;
}
