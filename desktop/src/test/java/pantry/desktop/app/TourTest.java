package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import javafx.scene.Scene;
import javafx.stage.Stage;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.framework.junit5.ApplicationExtension;
import org.testfx.framework.junit5.Start;
import pantry.base.Progress;
import pantry.demo.Demo;
import pantry.desktop.session.Background;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Session;
import pantry.exchange.worker.WorkerLimits;
import pantry.workbench.Workbench;

/** The tour visits every main view of the demo and leaves a picture of each that shows something. */
@ExtendWith(ApplicationExtension.class)
class TourTest {
    @TempDir
    private Path folder;

    private Workbench workbench;
    private ExecutorService work;
    private final CountDownLatch ended = new CountDownLatch(1);

    @Start
    void start(Stage stage) {
        workbench = new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL);
        work = Executors.newFixedThreadPool(2, Thread.ofPlatform().daemon().factory());
        Demo demo = Demo.in(folder.resolve("demo"), workbench, Progress.NONE);
        Parts parts = Parts.of(new Session(workbench, new Background(work, work, FxThread::later)));
        Scene scene = Windows.show(stage, parts.frame());
        parts.session().openLibrary(demo.library());
        parts.session().projectProperty().set(Optional.of(demo.project()));
        new Tour(parts, scene, List.of(demo.arrivals()), folder.resolve("shots"), ended::countDown).start();
    }

    @AfterEach
    void close() {
        work.shutdownNow();
        workbench.close();
    }

    @Test
    void everyMainViewHasItsPicture() throws InterruptedException, IOException {
        assertThat(ended.await(4, TimeUnit.MINUTES)).as("the tour ends").isTrue();
        try (Stream<Path> shots = Files.list(folder.resolve("shots"))) {
            List<Path> pictures = shots.sorted().toList();
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
