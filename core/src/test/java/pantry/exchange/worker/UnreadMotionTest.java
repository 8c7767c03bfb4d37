package pantry.exchange.worker;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class UnreadMotionTest {
    @TempDir
    private Path folder;

    private Path iqm(int joints, int motions, int length) throws IOException {
        ByteBuffer header = ByteBuffer.allocate(16 + 27 * 4).order(ByteOrder.LITTLE_ENDIAN);
        header.putInt(16 + 13 * 4, joints).putInt(16 + 17 * 4, motions);
        return Files.write(folder.resolve("walker.iqm"), java.util.Arrays.copyOf(header.array(), length));
    }

    @Test
    void jointsAndMotionsOfIqmAreTold() throws IOException {
        assertThat(UnreadMotion.told(iqm(75, 1, 124))).contains("75 joints and 1 motion, which are not read from IQM");
        assertThat(UnreadMotion.told(iqm(0, 0, 124))).isEmpty();
        assertThat(UnreadMotion.told(iqm(-5, Integer.MAX_VALUE, 124))).isEmpty();
        assertThat(UnreadMotion.told(iqm(75, 1, 60))).as("cut off").isEmpty();
    }

    @Test
    void jointsAndMotionsOfOgexAreTold() throws IOException {
        Path file = Files.writeString(folder.resolve("vane.ogex"), """
                Metric (key = "distance") {float {1.0}}
                GeometryNode $node1 {
                    Name {string {"Animation of the vane"}}
                    BoneNode $node2 {}
                    Animation
                    {
                        Track (target = %transform) {}
                    }
                }
                """);
        assertThat(UnreadMotion.told(file)).contains("1 joint and 1 motion, which are not read from OGEX");
        assertThat(UnreadMotion.told(Files.writeString(folder.resolve("a.dae"), "Animation")))
                .isEmpty();
    }
}
