package pantry.testing.faults;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** When the file system fails, and how. */
public final class Faults {
    /** How it fails. */
    public enum Kind {
        /** Every change from the chosen one on is not made, and whoever asked for it ends: the process was killed. */
        KILL,
        /** Every change that needs room fails from the chosen one on; removing goes on: the disk is full. */
        FULL
    }

    /** What a killed process meets; nothing that catches failures may go on from it. */
    public static final class Killed extends Error {
        private static final long serialVersionUID = 1L;

        Killed() {
            super("the process was killed here");
        }
    }

    private final List<FileChannel> open = new ArrayList<>();
    private Kind kind = Kind.KILL;
    private long at = Long.MAX_VALUE;
    private long changes;
    private boolean failed;

    /** The paths of a folder, on a file system that fails as this says. */
    public Path on(Path folder) {
        return new FaultyPath(new FaultyFileSystem(this), folder);
    }

    /** From now on, the change of this number fails, from 1, and all after it. */
    public void failAt(long number, Kind how) {
        at = number;
        kind = how;
        changes = 0;
        failed = false;
    }

    /** Nothing fails any more. */
    public synchronized void end() {
        at = Long.MAX_VALUE;
        failed = false;
    }

    /** How many changes there were since the last {@link #failAt}. */
    public long changes() {
        return changes;
    }

    /** Whether the chosen change was reached. */
    public boolean failed() {
        return failed;
    }

    /** Called before each change. */
    synchronized void change(boolean needsRoom) throws IOException {
        changes++;
        if (changes < at) {
            return;
        }
        failed = true;
        if (kind == Kind.KILL) {
            release();
            throw new Killed();
        }
        if (needsRoom) {
            throw new IOException("No space left on device");
        }
    }

    synchronized void opened(FileChannel channel) {
        open.add(channel);
    }

    synchronized void closed(FileChannel channel) {
        open.remove(channel);
    }

    /** What a process held, ends with it. */
    private void release() {
        for (FileChannel channel : open) {
            try {
                channel.close();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
        open.clear();
    }
}
