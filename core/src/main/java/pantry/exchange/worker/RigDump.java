package pantry.exchange.worker;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.DoubleBuffer;
import java.nio.IntBuffer;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.lwjgl.PointerBuffer;
import org.lwjgl.assimp.AIAnimation;
import org.lwjgl.assimp.AIBone;
import org.lwjgl.assimp.AIMesh;
import org.lwjgl.assimp.AIMeshMorphAnim;
import org.lwjgl.assimp.AIMeshMorphKey;
import org.lwjgl.assimp.AINodeAnim;
import org.lwjgl.assimp.AIQuatKey;
import org.lwjgl.assimp.AIQuaternion;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.AIVector3D;
import org.lwjgl.assimp.AIVectorKey;
import org.lwjgl.assimp.AIVertexWeight;

/** Hands over what moves in a file that Assimp has read. Runs in the worker only. */
final class RigDump {
    /** Common practice where a file does not tell how long a tick is: 25 a second. */
    private static final double USUAL_TICKS = 25;

    private static final int MOST_SHAPES = 1000;

    private final Arrays out;

    /** Takes arrays. */
    @FunctionalInterface
    interface Arrays {
        /** The place of the array in the result. */
        long append(ByteBuffer bytes) throws IOException;
    }

    RigDump(Arrays out) {
        this.out = out;
    }

    /** What of a mesh hangs on which object. */
    List<Wire.WireBone> bones(AIMesh mesh) throws IOException {
        List<Wire.WireBone> bones = new ArrayList<>();
        PointerBuffer pointers = mesh.mBones();
        for (int i = 0; i < mesh.mNumBones() && pointers != null; i++) {
            AIBone bone = AIBone.create(pointers.get(i));
            int count = bone.mNumWeights();
            AIVertexWeight.Buffer all = count == 0 ? null : bone.mWeights();
            ByteBuffer points = ByteBuffer.allocateDirect(count * 4).order(ByteOrder.nativeOrder());
            ByteBuffer weights = ByteBuffer.allocateDirect(count * 4).order(ByteOrder.nativeOrder());
            for (int w = 0; w < count && all != null; w++) {
                points.putInt(all.get(w).mVertexId());
                weights.putFloat(all.get(w).mWeight());
            }
            bones.add(new Wire.WireBone(
                    bone.mName().dataString(),
                    AssimpMatrix.rows(bone.mOffsetMatrix()),
                    out.append(points.flip()),
                    out.append(weights.flip()),
                    count));
        }
        return bones;
    }

    /** What moves objects. */
    List<Wire.WireMotion> motions(AIScene scene) throws IOException {
        List<Wire.WireMotion> motions = new ArrayList<>();
        PointerBuffer pointers = scene.mAnimations();
        for (int i = 0; i < scene.mNumAnimations() && pointers != null; i++) {
            AIAnimation animation = AIAnimation.create(pointers.get(i));
            double ticks = animation.mTicksPerSecond() > 0 ? animation.mTicksPerSecond() : USUAL_TICKS;
            List<Wire.WireTrack> tracks = new ArrayList<>();
            PointerBuffer channels = animation.mChannels();
            for (int c = 0; c < animation.mNumChannels() && channels != null; c++) {
                AINodeAnim channel = AINodeAnim.create(channels.get(c));
                String node = channel.mNodeName().dataString();
                vectors(node, "MOVE", channel.mNumPositionKeys(), channel.mPositionKeys(), ticks, tracks);
                turns(node, channel.mNumRotationKeys(), channel.mRotationKeys(), ticks, tracks);
                vectors(node, "SCALE", channel.mNumScalingKeys(), channel.mScalingKeys(), ticks, tracks);
            }
            List<Wire.WireWeights> shapes = new ArrayList<>();
            PointerBuffer morphs = animation.mMorphMeshChannels();
            for (int c = 0; c < animation.mNumMorphMeshChannels() && morphs != null; c++) {
                weights(AIMeshMorphAnim.create(morphs.get(c)), ticks, shapes);
            }
            motions.add(new Wire.WireMotion(animation.mName().dataString(), tracks, shapes));
        }
        return motions;
    }

    private void weights(AIMeshMorphAnim channel, double ticks, List<Wire.WireWeights> into) throws IOException {
        AIMeshMorphKey.Buffer keys = channel.mKeys();
        int count = channel.mNumKeys();
        int width = 0;
        for (int i = 0; i < count; i++) {
            IntBuffer shapes = keys.get(i).mValues();
            for (int s = 0; s < shapes.remaining(); s++) {
                width = Math.max(width, shapes.get(s) + 1);
            }
        }
        if (width == 0 || width > MOST_SHAPES) {
            return;
        }
        Keys all = new Keys(count, width);
        // What a key does not tell stays as it was.
        float[] now = new float[width];
        for (int i = 0; i < count; i++) {
            IntBuffer shapes = keys.get(i).mValues();
            DoubleBuffer weights = keys.get(i).mWeights();
            for (int s = 0; s < shapes.remaining(); s++) {
                if (shapes.get(s) >= 0) {
                    now[shapes.get(s)] = (float) weights.get(s);
                }
            }
            all.add(keys.get(i).mTime() / ticks, now);
        }
        into.add(new Wire.WireWeights(
                channel.mName().dataString(), out.append(all.times()), out.append(all.values()), all.count(), width));
    }

    private void vectors(
            String node,
            String part,
            int count,
            AIVectorKey.@Nullable Buffer keys,
            double ticks,
            List<Wire.WireTrack> into)
            throws IOException {
        if (count == 0 || keys == null) {
            return;
        }
        Keys all = new Keys(count, 3);
        for (int i = 0; i < count; i++) {
            AIVector3D value = keys.get(i).mValue();
            all.add(keys.get(i).mTime() / ticks, value.x(), value.y(), value.z());
        }
        into.add(new Wire.WireTrack(node, part, out.append(all.times()), out.append(all.values()), all.count()));
    }

    private void turns(String node, int count, AIQuatKey.@Nullable Buffer keys, double ticks, List<Wire.WireTrack> into)
            throws IOException {
        if (count == 0 || keys == null) {
            return;
        }
        Keys all = new Keys(count, 4);
        for (int i = 0; i < count; i++) {
            AIQuaternion value = keys.get(i).mValue();
            all.add(keys.get(i).mTime() / ticks, value.x(), value.y(), value.z(), value.w());
        }
        into.add(new Wire.WireTrack(node, "TURN", out.append(all.times()), out.append(all.values()), all.count()));
    }

    /** Times with their values; of several at one time the first counts, as exporters round. */
    private static final class Keys {
        private final ByteBuffer times;
        private final ByteBuffer values;
        private float last = Float.NaN;
        private int count;

        Keys(int most, int width) {
            times = ByteBuffer.allocateDirect(most * 4).order(ByteOrder.nativeOrder());
            values = ByteBuffer.allocateDirect(most * width * 4).order(ByteOrder.nativeOrder());
        }

        void add(double time, float... value) {
            if ((float) time == last) {
                return;
            }
            last = (float) time;
            times.putFloat(last);
            for (float number : value) {
                values.putFloat(number);
            }
            count++;
        }

        ByteBuffer times() {
            return times.flip();
        }

        ByteBuffer values() {
            return values.flip();
        }

        int count() {
            return count;
        }
    }
}
