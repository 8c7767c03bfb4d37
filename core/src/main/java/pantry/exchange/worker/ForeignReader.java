package pantry.exchange.worker;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import oshi.SystemInfo;
import oshi.software.os.OSProcess;
import pantry.base.AtomicFiles;
import pantry.base.FileGate;
import pantry.base.IoProblems;
import pantry.base.Printable;
import pantry.base.Progress;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Imported;

/**
 * Reads files of foreign formats by way of a worker process. One worker is started when first needed and kept; one
 * that dies, hangs or grows too large is replaced, and the file at hand gets an error. Safe for use by several threads,
 * which take turns.
 */
public final class ForeignReader implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(ForeignReader.class);
    private static final Duration GLANCE = Duration.ofMillis(100);

    /** Watching memory costs half a second to begin with; most files are read before that. */
    private static final Duration UNWATCHED = Duration.ofMillis(700);

    /** Who works less than this part of the time stands still. */
    private static final int STILL = 20;

    /** So many times as long a worker may take where the machine is busy with something else. */
    private static final int LONGEST = 4;

    private final WorkerLimits limits;
    private final Path scratch;
    private volatile @Nullable WorkerProcess worker;

    /** @param scratch a folder for what is handed over; made where missing, and left for the caller to remove */
    public ForeignReader(WorkerLimits limits, Path scratch) {
        this.limits = limits;
        this.scratch = scratch;
    }

    /** As below, of a file that may name others below its own folder only. */
    public Imported read(Path file, Progress progress) {
        return read(file, FileGate.beside(file), progress);
    }

    /**
     * Reads a file.
     *
     * @param gate what other files it may name; the worker may open those below its folders
     * @return the file in its own unit and axes; embedded images are unpacked into a folder of the scratch folder
     * @throws ExchangeException with Assimp's words where it will not read the file, or saying how the worker ended
     * @throws CancellationException where the progress was cancelled
     */
    public synchronized Imported read(Path file, FileGate gate, Progress progress) {
        Path result = null;
        try {
            Files.createDirectories(scratch);
            result = Files.createTempFile(scratch, "read-", ".bin");
            ask(WorkerMain.SCENE, file, gate, result, progress);
            return new WireReader(file, gate, result, newFolder("images")).imported();
        } catch (IOException e) {
            throw new ExchangeException(file, "cannot be read: " + IoProblems.describe(e), e);
        } finally {
            deleteQuietly(result);
        }
    }

    /**
     * Decodes an image into a file of the scratch folder, as {@link PixelDump} writes it; for the caller to remove.
     *
     * @param what kind of image, as {@link WorkerMain} numbers it
     * @throws ExchangeException as {@link #read}
     */
    synchronized Path image(int what, Path file, Progress progress) {
        try {
            Files.createDirectories(scratch);
            Path result = Files.createTempFile(scratch, "image-", ".bin");
            ask(what, file, FileGate.beside(file), result, progress);
            return result;
        } catch (IOException e) {
            throw new ExchangeException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** A new folder for what is unpacked while reading; it lasts as long as the scratch folder. */
    public Path newFolder(String name) throws IOException {
        Files.createDirectories(scratch);
        return Files.createTempDirectory(scratch, name + "-");
    }

    private static void deleteQuietly(@Nullable Path file) {
        try {
            if (file != null) {
                Files.deleteIfExists(file);
            }
        } catch (IOException e) {
            LOG.warn("a scratch file stays behind: {}", e.getMessage());
        }
    }

    private void ask(int what, Path file, FileGate gate, Path result, Progress progress) throws IOException {
        Optional<String> refusal;
        try {
            refusal = asked(what, file, gate, result, progress);
        } catch (Stall first) {
            LOG.warn("a worker stood still, and is replaced: {}: {}", file, first.getMessage());
            try {
                refusal = asked(what, file, gate, result, progress);
            } catch (Stall again) {
                throw tooSlow(file);
            }
        }
        if (refusal.isPresent()) {
            throw new ExchangeException(file, "cannot be read: " + told(refusal.get()));
        }
    }

    private Optional<String> asked(int what, Path file, FileGate gate, Path result, Progress progress)
            throws IOException, Stall {
        WorkerProcess process = ready(file, progress);
        CompletableFuture<WorkerProcess.Answer> answer = later(() -> process.ask(what, file, gate.folders(), result));
        return await(process, answer, file, progress).refusal();
    }

    private ExchangeException tooSlow(Path file) {
        return new ExchangeException(
                file, "was given up: it was not read within " + limits.time().toSeconds() + " s");
    }

    /** That a worker had time, and did next to nothing with it: the file at hand need not be the reason. */
    private static final class Stall extends Exception {
        private static final long serialVersionUID = 1L;

        Stall(String message) {
            super(message);
        }
    }

    /** Assimp's words, where they say something. */
    private static String told(String refusal) {
        String words = Printable.of(refusal.strip());
        return IoProblems.saysSomething(words)
                ? words
                : "it is damaged, or not what its ending says" + (words.isEmpty() ? "" : " (" + words + ")");
    }

    private WorkerProcess ready(Path file, Progress progress) throws IOException, Stall {
        WorkerProcess running = worker;
        if (running != null && running.alive()) {
            return running;
        }
        WorkerProcess fresh = WorkerProcess.start(limits, scratch);
        worker = fresh;
        await(
                fresh,
                later(() -> {
                    fresh.awaitReady();
                    return new WorkerProcess.Answer(Optional.empty());
                }),
                file,
                progress);
        return fresh;
    }

    private interface Asking {
        WorkerProcess.Answer ask() throws IOException;
    }

    private static CompletableFuture<WorkerProcess.Answer> later(Asking asking) {
        CompletableFuture<WorkerProcess.Answer> answer = new CompletableFuture<>();
        WorkerProcess.thread("answer").start(() -> {
            try {
                answer.complete(asking.ask());
            } catch (IOException e) {
                answer.completeExceptionally(e);
            }
        });
        return answer;
    }

    private WorkerProcess.Answer await(
            WorkerProcess process, CompletableFuture<WorkerProcess.Answer> answer, Path file, Progress progress)
            throws Stall {
        long started = System.nanoTime();
        Duration before = process.worked();
        while (true) {
            try {
                return answer.get(GLANCE.toMillis(), TimeUnit.MILLISECONDS);
            } catch (TimeoutException e) {
                if (progress.cancelled()) {
                    discard(process);
                    throw new CancellationException("cancelled: " + file);
                }
                progress.report("reading " + file.getFileName(), -1);
                Duration passed = Duration.ofNanos(System.nanoTime() - started);
                if (passed.compareTo(limits.time()) > 0) {
                    requireWork(process, file, passed, process.worked().minus(before));
                }
                if (System.nanoTime() - started > UNWATCHED.toNanos() && residentMemory(process) > limits.memory()) {
                    discard(process);
                    throw new ExchangeException(
                            file,
                            "was given up: reading it took more than " + (limits.memory() >> 20) + " MiB of memory");
                }
            } catch (ExecutionException e) {
                discard(process);
                throw new ExchangeException(
                        file,
                        "brought down the process that read it (" + process.epitaph()
                                + "); the file is damaged, or the process was stopped from outside",
                        e.getCause());
            } catch (InterruptedException e) {
                discard(process);
                Thread.currentThread().interrupt();
                throw new CancellationException("interrupted: " + file);
            }
        }
    }

    /**
     * Lets a worker go on after its time where the machine has not given it that time, up to some times as long.
     *
     * @param worked the processor's time that it had meanwhile
     */
    private void requireWork(WorkerProcess process, Path file, Duration passed, Duration worked) throws Stall {
        Duration time = limits.time();
        if (worked.compareTo(time.dividedBy(STILL)) < 0) {
            discard(process);
            throw new Stall("worked " + worked.toMillis() + " ms of " + passed.toSeconds() + " s");
        }
        if (worked.compareTo(time) > 0 || passed.compareTo(time.multipliedBy(LONGEST)) > 0) {
            discard(process);
            throw tooSlow(file);
        }
    }

    private static long residentMemory(WorkerProcess process) {
        OSProcess seen = new SystemInfo().getOperatingSystem().getProcess((int) process.pid());
        return seen == null ? 0 : seen.getResidentMemory();
    }

    private void discard(WorkerProcess process) {
        process.kill();
        worker = null;
    }

    /** The running worker's process number, for those who watch or test it. */
    public Optional<Long> workerPid() {
        WorkerProcess running = worker;
        return running == null ? Optional.empty() : Optional.of(running.pid());
    }

    /** Ends the worker and removes what was handed over. */
    @Override
    public synchronized void close() {
        if (worker != null) {
            worker.kill();
            worker = null;
        }
        try {
            AtomicFiles.deleteTree(scratch);
        } catch (IOException e) {
            LOG.warn("the scratch folder stays behind: {}", e.getMessage());
        }
    }
}
