package pantry.exchange.worker;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.channels.FileChannel;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.lwjgl.assimp.AIFile;
import org.lwjgl.assimp.AIFileCloseProc;
import org.lwjgl.assimp.AIFileFlushProc;
import org.lwjgl.assimp.AIFileIO;
import org.lwjgl.assimp.AIFileOpenProc;
import org.lwjgl.assimp.AIFileReadProc;
import org.lwjgl.assimp.AIFileSeek;
import org.lwjgl.assimp.AIFileTellProc;
import org.lwjgl.assimp.AIFileWriteProc;
import org.lwjgl.assimp.Assimp;
import org.lwjgl.system.MemoryUtil;
import pantry.base.FileGate;

/**
 * The files that Assimp may open: it asks for each here, whoever names it. Files are mapped, never written. For one
 * thread, and one import at a time.
 */
final class AdmittedFiles implements AutoCloseable {
    private static final int FROM_START = 0;
    private static final int FROM_HERE = 1;

    private final FileGate gate;
    private final Path root;
    private final Map<Long, Opened> open = new HashMap<>();
    private final AIFileOpenProc opens = AIFileOpenProc.create(this::open);
    private final AIFileCloseProc closes = AIFileCloseProc.create((io, file) -> close(file));
    private final AIFileReadProc reads = AIFileReadProc.create(this::read);
    private final AIFileSeek seeks = AIFileSeek.create(this::seek);
    private final AIFileTellProc tells = AIFileTellProc.create(file -> opened(file).at);
    private final AIFileTellProc sizes =
            AIFileTellProc.create(file -> opened(file).bytes.byteSize());
    private final AIFileFlushProc flushes = AIFileFlushProc.create(file -> {});
    private final AIFileWriteProc writes = AIFileWriteProc.create((file, buffer, size, count) -> 0);
    private final AIFileIO io = AIFileIO.calloc().set(opens, closes, MemoryUtil.NULL);

    private static final class Opened {
        final Arena arena = Arena.ofConfined();
        final AIFile handle;
        final MemorySegment bytes;
        long at;

        Opened(Path file, AIFile handle) throws IOException {
            this.handle = handle;
            try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
                bytes = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), arena);
            }
        }
    }

    /**
     * @param gate what may be opened
     * @param root the file that is read, for which it is opened
     */
    AdmittedFiles(FileGate gate, Path root) {
        this.gate = gate;
        this.root = root;
    }

    AIFileIO io() {
        return io;
    }

    private long open(long fileIo, long name, long mode) {
        String written = MemoryUtil.memUTF8(name);
        if (MemoryUtil.memASCII(mode).startsWith("w")) {
            return MemoryUtil.NULL;
        }
        try {
            Optional<Path> file = gate.admit(Path.of(written.replace('\\', '/')), written, root);
            if (file.isEmpty()) {
                return MemoryUtil.NULL;
            }
            AIFile handle = AIFile.calloc();
            Opened opened;
            try {
                opened = new Opened(file.get(), handle);
            } catch (IOException e) {
                handle.free();
                return MemoryUtil.NULL;
            }
            handle.set(reads, writes, tells, sizes, seeks, flushes, MemoryUtil.NULL);
            open.put(handle.address(), opened);
            return handle.address();
        } catch (InvalidPathException e) {
            return MemoryUtil.NULL;
        }
    }

    private Opened opened(long file) {
        Opened opened = open.get(file);
        if (opened == null) {
            throw new IllegalStateException("a file is used that is not open");
        }
        return opened;
    }

    private void close(long file) {
        Opened opened = open.remove(file);
        if (opened != null) {
            opened.arena.close();
            opened.handle.free();
        }
    }

    /** @return how many whole elements were read */
    private long read(long file, long buffer, long size, long count) {
        Opened opened = opened(file);
        if (size <= 0 || count <= 0) {
            return 0;
        }
        long elements = Math.min(count, (opened.bytes.byteSize() - opened.at) / size);
        long bytes = elements * size;
        MemorySegment.copy(
                opened.bytes, opened.at, MemorySegment.ofAddress(buffer).reinterpret(bytes), 0, bytes);
        opened.at += bytes;
        return elements;
    }

    private int seek(long file, long offset, int origin) {
        Opened opened = opened(file);
        long base =
                switch (origin) {
                    case FROM_START -> 0;
                    case FROM_HERE -> opened.at;
                    default -> opened.bytes.byteSize();
                };
        long at = base + offset;
        if (at < 0 || at > opened.bytes.byteSize()) {
            return Assimp.aiReturn_FAILURE;
        }
        opened.at = at;
        return Assimp.aiReturn_SUCCESS;
    }

    @Override
    public void close() {
        List.copyOf(open.keySet()).forEach(this::close);
        io.free();
        opens.free();
        closes.free();
        reads.free();
        seeks.free();
        tells.free();
        sizes.free();
        flushes.free();
        writes.free();
    }
}
