package pantry.exchange.worker;

import java.io.BufferedReader;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** One running worker. To be used by one thread at a time; {@link #kill} by any. */
final class WorkerProcess {
    private static final int KEPT_LINES = 20;
    private static final String NATIVES = "org.lwjgl.system.SharedLibraryExtractPath";

    /** What of the environment a worker needs; passwords and addresses in the rest are none of a foreign file's. */
    private static final Set<String> NEEDED =
            Set.of("PATH", "LANG", "LC_ALL", "LC_CTYPE", "SystemRoot", "LD_LIBRARY_PATH", "DYLD_LIBRARY_PATH");

    private final Process process;
    private final DataOutputStream requests;
    private final DataInputStream answers;
    private final Deque<String> lastWords = new ArrayDeque<>();

    /** What the worker said to a request; empty where it was done. */
    record Answer(Optional<String> refusal) {}

    private WorkerProcess(Process process) {
        this.process = process;
        this.requests = new DataOutputStream(process.getOutputStream());
        this.answers = new DataInputStream(process.getInputStream());
        thread("listen").start(this::listen);
    }

    /**
     * What waits for a worker waits in a thread of the system: a virtual one that reads from a pipe keeps its carrier, of
     * which there are as many as processors, and under load the next one may find none.
     */
    static Thread.Builder thread(String what) {
        return Thread.ofPlatform().daemon().name("worker " + what);
    }

    /**
     * Starts a worker with the class path of this process.
     *
     * @param scratch where the report of a crash goes, rather than into the user's folder
     */
    static WorkerProcess start(WorkerLimits limits, Path scratch) throws IOException {
        String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
        long heap = Math.max(64, (limits.memory() >> 20) / 4);
        ProcessBuilder builder = new ProcessBuilder(List.of(
                java,
                "-Xmx" + heap + "m",
                "-XX:+UseSerialGC",
                "-XX:TieredStopAtLevel=1",
                "-Xshare:auto",
                "-Djava.io.tmpdir=" + scratch,
                "-Dorg.lwjgl.system.SharedLibraryExtractPath="
                        + System.getProperty(NATIVES, scratch.resolve("native").toString()),
                "-XX:-CreateCoredumpOnCrash",
                "-XX:ErrorFile=" + scratch.resolve("worker-crash-%p.log"),
                "--enable-native-access=ALL-UNNAMED",
                "--sun-misc-unsafe-memory-access=allow",
                "-cp",
                System.getProperty("java.class.path"),
                WorkerMain.class.getName()));
        Map<String, String> environment = builder.environment();
        environment.keySet().retainAll(NEEDED);
        return new WorkerProcess(builder.start());
    }

    private void listen() {
        try (BufferedReader lines =
                new BufferedReader(new InputStreamReader(process.getErrorStream(), StandardCharsets.UTF_8))) {
            String line;
            while ((line = lines.readLine()) != null) {
                synchronized (lastWords) {
                    lastWords.addLast(line);
                    if (lastWords.size() > KEPT_LINES) {
                        lastWords.removeFirst();
                    }
                }
            }
        } catch (IOException e) {
            // The worker is gone; what it said until then is kept.
        }
    }

    /** Waits for the worker to be ready. */
    void awaitReady() throws IOException {
        answers.readByte();
    }

    /** @param what is asked for, as {@link WorkerMain} numbers it */
    Answer ask(int what, Path file, List<Path> folders, Path result) throws IOException {
        requests.writeByte(what);
        requests.writeUTF(file.toAbsolutePath().toString());
        requests.writeUTF(result.toString());
        requests.writeInt(folders.size());
        for (Path folder : folders) {
            requests.writeUTF(folder.toString());
        }
        requests.flush();
        return answers.readByte() == WorkerMain.DONE
                ? new Answer(Optional.empty())
                : new Answer(Optional.of(answers.readUTF()));
    }

    boolean alive() {
        return process.isAlive();
    }

    long pid() {
        return process.pid();
    }

    /** How much of the processor's time it has had; nothing where the system does not tell. */
    Duration worked() {
        return process.info().totalCpuDuration().orElse(Duration.ZERO);
    }

    void kill() {
        process.destroyForcibly();
    }

    /** How it ended, for a person. */
    String epitaph() {
        try {
            int status = process.waitFor();
            return status > 128 ? "signal " + (status - 128) : "status " + status;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return "unknown status";
        }
    }
}
