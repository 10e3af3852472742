import mysql, { type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';
import type { ServerConfig } from '../config.ts';

export type Row = RowDataPacket;
type Value = string | number | Date | null;

/** MariaDB through plain SQL. Values always go through placeholders. */
export class Database {
  private constructor(readonly pool: Pool) {}

  /** Connects, creating the database when it is not there. */
  static async open(config: ServerConfig['database']): Promise<Database> {
    const { database, ...server } = config;
    const first = await mysql.createConnection(server);
    await first.query(
      `CREATE DATABASE IF NOT EXISTS \`${database.replaceAll('`', '')}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`,
    );
    await first.end();
    return new Database(
      mysql.createPool({ ...config, connectionLimit: 12, timezone: 'Z', charset: 'utf8mb4', jsonStrings: true }),
    );
  }

  async rows<T extends object = Record<string, unknown>>(sql: string, values: Value[] = []): Promise<T[]> {
    const [rows] = await this.pool.execute<Row[]>(sql, values);
    return rows as unknown as T[];
  }

  async one<T extends object = Record<string, unknown>>(sql: string, values: Value[] = []): Promise<T | null> {
    return (await this.rows<T>(sql, values))[0] ?? null;
  }

  /** Runs a change; returns the number of rows it touched. */
  async run(sql: string, values: Value[] = []): Promise<number> {
    const [result] = await this.pool.execute<ResultSetHeader>(sql, values);
    return result.affectedRows;
  }

  /** All of `work` or none of it. */
  async transaction<T>(work: (connection: PoolConnection) => Promise<T>): Promise<T> {
    const connection = await this.pool.getConnection();
    try {
      await connection.beginTransaction();
      const result = await work(connection);
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
