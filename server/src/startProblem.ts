/** Why the server does not start, in one sentence, with the way out. */
export class StartProblem extends Error {
  override name = 'StartProblem';
}

interface SystemFailure {
  code?: string;
  syscall?: string;
}

/** What keeps the server from starting, in one plain sentence; null where nobody foresaw it. */
export function sayStartProblem(error: unknown, folder: string): string | null {
  if (error instanceof StartProblem) return error.message;
  const { code = '' } = error as SystemFailure;
  switch (code) {
    case 'ENOSPC':
    case 'SQLITE_FULL':
      return `The disk with ${folder} is full. Make room, and start Carafe again; nothing was lost.`;
    case 'EACCES':
    case 'EPERM':
    case 'EROFS':
    case 'SQLITE_READONLY':
    case 'SQLITE_READONLY_DIRECTORY':
    case 'SQLITE_READONLY_DBMOVED':
    case 'SQLITE_CANTOPEN':
      return `Carafe cannot write to ${folder}. Let this user write there, or set CARAFE_DATA to another folder.`;
    case 'ENOTDIR':
    case 'EEXIST':
      return `${folder} is a file, not a folder. Set CARAFE_DATA to a folder.`;
    case 'SQLITE_NOTADB':
    case 'SQLITE_CORRUPT':
      return `The database in ${folder} is damaged. Put a backup in its place, or set CARAFE_DATA to another folder; Carafe has changed nothing.`;
    case 'SQLITE_BUSY':
      return `Another program holds the database in ${folder}. End it, and start Carafe again.`;
    default:
      return code.startsWith('SQLITE_IOERR')
        ? `The disk with ${folder} cannot be read or written. Look whether it is full or failing.`
        : null;
  }
}
