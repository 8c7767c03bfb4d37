package pantry.testing.faults;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.ByteBuffer;
import java.nio.MappedByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.ReadableByteChannel;
import java.nio.channels.WritableByteChannel;
import org.jspecify.annotations.Nullable;

/** A file of the system's own file system, whose writing counts as changes. */
final class FaultyChannel extends FileChannel {
    private final Faults faults;
    private final FileChannel plain;

    FaultyChannel(Faults faults, FileChannel plain) {
        this.faults = faults;
        this.plain = plain;
        faults.opened(plain);
    }

    @Override
    public int read(ByteBuffer to) throws IOException {
        return plain.read(to);
    }

    @Override
    public long read(ByteBuffer[] to, int offset, int length) throws IOException {
        return plain.read(to, offset, length);
    }

    @Override
    public int write(ByteBuffer from) throws IOException {
        faults.change(true);
        return plain.write(from);
    }

    @Override
    public long write(ByteBuffer[] from, int offset, int length) throws IOException {
        faults.change(true);
        return plain.write(from, offset, length);
    }

    @Override
    public long position() throws IOException {
        return plain.position();
    }

    @Override
    public FileChannel position(long newPosition) throws IOException {
        plain.position(newPosition);
        return this;
    }

    @Override
    public long size() throws IOException {
        return plain.size();
    }

    @Override
    public FileChannel truncate(long size) throws IOException {
        faults.change(false);
        plain.truncate(size);
        return this;
    }

    @Override
    public void force(boolean metaData) throws IOException {
        faults.change(false);
        plain.force(metaData);
    }

    @Override
    public long transferTo(long position, long count, WritableByteChannel target) throws IOException {
        return plain.transferTo(position, count, target);
    }

    @Override
    public long transferFrom(ReadableByteChannel source, long position, long count) throws IOException {
        faults.change(true);
        return plain.transferFrom(source, position, count);
    }

    @Override
    public int read(ByteBuffer to, long position) throws IOException {
        return plain.read(to, position);
    }

    @Override
    public int write(ByteBuffer from, long position) throws IOException {
        faults.change(true);
        return plain.write(from, position);
    }

    @Override
    public MappedByteBuffer map(MapMode mode, long position, long size) throws IOException {
        return plain.map(mode, position, size);
    }

    @Override
    public MemorySegment map(MapMode mode, long offset, long size, Arena arena) throws IOException {
        return plain.map(mode, offset, size, arena);
    }

    @Override
    public FileLock lock(long position, long size, boolean shared) throws IOException {
        return plain.lock(position, size, shared);
    }

    @Override
    public @Nullable FileLock tryLock(long position, long size, boolean shared) throws IOException {
        return plain.tryLock(position, size, shared);
    }

    @Override
    protected void implCloseChannel() throws IOException {
        plain.close();
        faults.closed(plain);
    }
}
