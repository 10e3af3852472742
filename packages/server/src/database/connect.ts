import mysql, { type Connection, type Pool, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';
import type { ServerConfig } from '../config.ts';

/** How often a transaction is tried that the database gave up for another's sake. */
const TRIES = 6;

type Value = string | number | Date | null;

/** Whatever runs statements: the database, or one transaction on it. Values always go through placeholders. */
export class Statements {
  constructor(private readonly runner: Pick<Connection, 'execute' | 'query'>) {}

  async rows<T extends object = Record<string, unknown>>(sql: string, values: Value[] = []): Promise<T[]> {
    const [rows] = await this.runner.execute<RowDataPacket[]>(sql, values);
    return rows as unknown as T[];
  }

  async one<T extends object = Record<string, unknown>>(sql: string, values: Value[] = []): Promise<T | null> {
    return (await this.rows<T>(sql, values))[0] ?? null;
  }

  /** Runs a change; returns the number of rows it touched. */
  async run(sql: string, values: Value[] = []): Promise<number> {
    return (await this.change(sql, values)).affectedRows;
  }

  /** Inserts a row and returns the number that the database gave it. */
  async insert(sql: string, values: Value[] = []): Promise<number> {
    return (await this.change(sql, values)).insertId;
  }

  /** Inserts many rows at once: `sql` ends with `VALUES ?`. Does nothing without rows. */
  async insertAll(sql: string, rows: ReadonlyArray<readonly Value[]>): Promise<void> {
    if (rows.length > 0) await this.runner.query(sql, [rows]);
  }

  private async change(sql: string, values: Value[]): Promise<ResultSetHeader> {
    const [result] = await this.runner.execute<ResultSetHeader>(sql, values);
    return result;
  }
}

/** MariaDB through plain SQL. */
export class Database extends Statements {
  private constructor(readonly pool: Pool) {
    super(pool as unknown as Connection);
  }

  /** Connects, creating the database when it is not there. Every connection counts time in UTC. */
  static async open(config: ServerConfig['database']): Promise<Database> {
    const { database, ...server } = config;
    const first = await mysql.createConnection(server);
    await first.query(
      `CREATE DATABASE IF NOT EXISTS \`${database.replaceAll('`', '')}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`,
    );
    await first.end();
    const pool = mysql.createPool({
      ...config,
      connectionLimit: 12,
      timezone: 'Z',
      charset: 'utf8mb4',
      jsonStrings: true,
    });
    // Statements of a connection run in order, so this one comes before any other.
    pool.pool.on('connection', (connection) => connection.query("SET time_zone = '+00:00'"));
    return new Database(pool);
  }

  /**
   * All of `work` or none of it. Rows that it only looks at are not locked (READ COMMITTED). Of two that stand in each
   * other's way the database gives one up: that one is tried again, so `work` may run more than once.
   */
  async transaction<T>(work: (statements: Statements) => Promise<T>): Promise<T> {
    for (let attempt = 1; ; attempt++) {
      try {
        return await this.once(work);
      } catch (error) {
        if ((error as { code?: string }).code !== 'ER_LOCK_DEADLOCK' || attempt >= TRIES) throw error;
      }
    }
  }

  private async once<T>(work: (statements: Statements) => Promise<T>): Promise<T> {
    const connection = await this.pool.getConnection();
    try {
      await connection.query('SET TRANSACTION ISOLATION LEVEL READ COMMITTED');
      await connection.beginTransaction();
      const result = await work(new Statements(connection));
      await connection.commit();
      return result;
    } catch (error) {
      await connection.rollback();
      throw error;
    } finally {
      connection.release();
    }
  }

  async close(): Promise<void> {
    await this.pool.end();
  }
}
