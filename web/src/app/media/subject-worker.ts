/** The worker that finds a subject; in a file of its own, so that tests can put another in its place. */
export function createSubjectWorker(): Worker {
  return new Worker('/subject/subject.js');
}
