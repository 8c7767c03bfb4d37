package pantry.exchange.gltf;

import de.javagl.jgltf.impl.v2.Animation;
import de.javagl.jgltf.impl.v2.AnimationChannel;
import de.javagl.jgltf.impl.v2.AnimationChannelTarget;
import de.javagl.jgltf.impl.v2.AnimationSampler;
import java.util.ArrayList;
import java.util.List;

/** The channels of one animation of glTF, each with a sampler of its own. */
final class GltfChannels {
    private final List<AnimationSampler> samplers = new ArrayList<>();
    private final List<AnimationChannel> channels = new ArrayList<>();

    /**
     * Adds what changes one thing of a node, in a straight line from key to key.
     *
     * @param path what of the node, by glTF's word
     * @param input the accessor of the times
     * @param output the accessor of the values
     */
    void add(int node, String path, int input, int output) {
        AnimationSampler sampler = new AnimationSampler();
        sampler.setInput(input);
        sampler.setOutput(output);
        sampler.setInterpolation("LINEAR");
        samplers.add(sampler);
        AnimationChannelTarget target = new AnimationChannelTarget();
        target.setNode(node);
        target.setPath(path);
        AnimationChannel channel = new AnimationChannel();
        channel.setSampler(samplers.size() - 1);
        channel.setTarget(target);
        channels.add(channel);
    }

    boolean isEmpty() {
        return channels.isEmpty();
    }

    /** The animation of these channels. */
    Animation animation(String name) {
        Animation animation = new Animation();
        animation.setName(name);
        animation.setSamplers(samplers);
        animation.setChannels(channels);
        return animation;
    }
}
