declare module 'csv-spectrum' {
  interface Case {
    name: string;
    csv: Buffer;
    json: Buffer;
  }
  export default function spectrum(done: (error: Error | null, cases: Case[]) => void): void;
}
