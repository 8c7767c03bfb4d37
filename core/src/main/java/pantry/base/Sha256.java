package pantry.base;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256 (FIPS 180-4) of files and bytes, in lower-case hexadecimal. */
public final class Sha256 {
    private static final int BLOCK = 1 << 16;

    private Sha256() {}

    /** The checksum of a file, read in blocks. */
    public static String of(Path file) throws IOException {
        MessageDigest digest = digest();
        // In an array, from which the digest takes its bytes without copying them once more.
        ByteBuffer block = ByteBuffer.allocate(BLOCK);
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            while (channel.read(block) >= 0) {
                digest.update(block.array(), 0, block.position());
                block.clear();
            }
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    /** The checksum of bytes in memory. */
    public static String of(byte[] bytes) {
        return HexFormat.of().formatHex(digest().digest(bytes));
    }

    private static MessageDigest digest() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new AssertionError("every Java platform has SHA-256", e);
        }
    }
}
