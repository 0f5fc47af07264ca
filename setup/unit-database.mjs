/** Gives each of Jest's workers the database that is its own. */
const databases = JSON.parse(process.env.UNIT_DATABASES ?? '[]');
const own = databases[Number(process.env.JEST_WORKER_ID ?? 1) - 1];
if (own) process.env.DATABASE_URL = own;
