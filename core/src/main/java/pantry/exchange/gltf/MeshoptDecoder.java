package pantry.exchange.gltf;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.util.meshoptimizer.MeshOptimizer;

/** Unpacks buffer views of the extension {@code EXT_meshopt_compression}, by meshoptimizer. */
final class MeshoptDecoder {
    private static final int MOST_STRIDE = 256;

    /** The packing never shrinks data below a few bits for each element; what claims more is no honest file. */
    private static final long MOST_GROWTH = 2_000;

    private MeshoptDecoder() {}

    /**
     * @param mode ATTRIBUTES, TRIANGLES or INDICES
     * @param filter NONE, OCTAHEDRAL, QUATERNION or EXPONENTIAL
     * @return {@code count * stride} bytes
     * @throws IllegalArgumentException where that is not what the bytes hold
     */
    static ByteBuffer decode(ByteBuffer packed, int count, int stride, String mode, String filter) {
        if (count < 0
                || stride <= 0
                || stride > MOST_STRIDE
                || (long) count * stride > Math.min(Integer.MAX_VALUE - 16L, 1024 + packed.capacity() * MOST_GROWTH)) {
            throw new IllegalArgumentException(count + " elements of " + stride + " bytes cannot be in it");
        }
        ByteBuffer source = MemoryUtil.memAlloc(packed.capacity());
        ByteBuffer target = MemoryUtil.memAlloc(Math.max(1, count * stride));
        try {
            source.put(packed.duplicate()).flip();
            int result =
                    switch (mode) {
                        case "ATTRIBUTES" -> {
                            require(stride % 4 == 0, "a stride of " + stride);
                            yield MeshOptimizer.meshopt_decodeVertexBuffer(target, count, stride, source);
                        }
                        case "TRIANGLES" -> {
                            require(count % 3 == 0 && (stride == 2 || stride == 4), "indices of " + stride + " bytes");
                            yield MeshOptimizer.meshopt_decodeIndexBuffer(target, count, stride, source);
                        }
                        case "INDICES" -> {
                            require(stride == 2 || stride == 4, "indices of " + stride + " bytes");
                            yield MeshOptimizer.meshopt_decodeIndexSequence(target, count, stride, source);
                        }
                        default -> throw new IllegalArgumentException("the mode \"" + mode + "\" is not known");
                    };
            require(result == 0, "damaged data");
            switch (filter) {
                case "OCTAHEDRAL" -> {
                    require(stride == 4 || stride == 8, "octahedral normals of " + stride + " bytes");
                    MeshOptimizer.meshopt_decodeFilterOct(target, count, stride);
                }
                case "QUATERNION" -> {
                    require(stride == 8, "quaternions of " + stride + " bytes");
                    MeshOptimizer.meshopt_decodeFilterQuat(target, count, stride);
                }
                case "EXPONENTIAL" -> {
                    require(stride % 4 == 0, "exponents of " + stride + " bytes");
                    MeshOptimizer.meshopt_decodeFilterExp(target, count, stride);
                }
                default -> {}
            }
            byte[] bytes = new byte[count * stride];
            target.get(0, bytes);
            return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
        } finally {
            MemoryUtil.memFree(source);
            MemoryUtil.memFree(target);
        }
    }

    private static void require(boolean holds, String otherwise) {
        if (!holds) {
            throw new IllegalArgumentException("it has " + otherwise);
        }
    }
}
