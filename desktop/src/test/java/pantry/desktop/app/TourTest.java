package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import javafx.stage.Stage;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.framework.junit5.Start;
import pantry.desktop.InWindow;

/** The tour visits every main view of the demo and leaves a picture of each that shows something. */
@InWindow
class TourTest {
    private final Path folder;
    private final WholeApplication application;
    private final CountDownLatch ended = new CountDownLatch(1);

    TourTest(@TempDir Path folder) {
        this.folder = folder;
        application = WholeApplication.ofDemo(folder);
    }

    @Start
    void start(Stage stage) {
        Parts parts = application.show(stage);
        Path shots = folder.resolve("shots");
        new Tour(parts, stage.getScene(), List.of(application.arrivals()), shots, ended::countDown).start();
    }

    @AfterEach
    void close() {
        application.close();
    }

    @Test
    void everyMainViewHasItsPicture() throws InterruptedException, IOException {
        assertThat(ended.await(8, TimeUnit.MINUTES)).as("the tour ends").isTrue();
        try (Stream<Path> shots = Files.list(folder.resolve("shots"))) {
            List<Path> pictures = shots.sorted().toList();
            assertThat(pictures).as("none is left out").hasSizeGreaterThanOrEqualTo(19);
            assertThat(pictures)
                    .extracting(path -> path.getFileName().toString())
                    .contains("receive.png", "shelves.png", "prep.png", "scenes.png", "reach.png");
            for (Path picture : pictures) {
                BufferedImage image = ImageIO.read(picture.toFile());
                assertThat(image.getWidth()).isEqualTo(1280);
                assertThat(image.getHeight()).isEqualTo(800);
                int[] pixels = image.getRGB(0, 0, 1280, 800, null, 0, 1280);
                assertThat(java.util.Arrays.stream(pixels).distinct().count())
                        .as(picture + " shows more than one colour")
                        .isGreaterThan(20);
            }
        }
    }
}
