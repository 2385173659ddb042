import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, rowsOf } from './database.ts';

const RoleRow = z.object({ name: z.string(), isFree: z.boolean() });

/** What is wrong with the role that the running program signs in as; null where row-level security binds it. */
export async function roleProblem(database: Database): Promise<string | null> {
  const [role] = await rowsOf(
    database,
    RoleRow,
    sql`select rolname as name, rolsuper or rolbypassrls as "isFree"
        from pg_roles where rolname = current_user`,
  );
  return role?.isFree
    ? `DATABASE_URL signs in as ${role.name}, who is a superuser or bypasses row-level security, so that one set of books could be seen from another. Use a role that does neither.`
    : null;
}
