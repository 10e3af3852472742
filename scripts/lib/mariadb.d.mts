export interface StartedDatabase {
  port: number;
  user: string;
  password: string;
  rootPassword: string;
  stop: () => Promise<void>;
}

export function startMariadb(folder: string, wantedPort: number, databases?: string): Promise<StartedDatabase>;
export function freePort(wanted: number): Promise<number>;
