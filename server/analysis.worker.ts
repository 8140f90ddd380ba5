import { parentPort } from "node:worker_threads";
import { answerJob, type Job } from "./jobs";

/** Works out what takes long, off the thread that answers requests. One job at a time, in the order they come. */
parentPort?.on("message", (job: Job) => {
  void answerJob(job).then((answer) => parentPort?.postMessage(answer));
});
