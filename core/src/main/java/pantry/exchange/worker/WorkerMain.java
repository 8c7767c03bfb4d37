package pantry.exchange.worker;

import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.base.FileGate;

/** The worker process: reads one file after another until its standard input ends. */
final class WorkerMain {
    static final byte DONE = 1;
    static final byte REFUSED = 2;

    /** What is asked for: a file of models, an OpenEXR image, a KTX 2.0 texture, or the light of an OpenEXR image. */
    static final int SCENE = 1;

    static final int EXR = 2;
    static final int KTX = 3;
    static final int EXR_LIGHT = 4;

    private WorkerMain() {}

    public static void main(String[] arguments) throws IOException {
        PrintStream answers = System.out;
        // Whatever native code prints must not get among the answers.
        System.setOut(System.err);
        DataOutputStream out = new DataOutputStream(answers);
        DataInputStream in = new DataInputStream(System.in);
        out.writeByte(DONE);
        out.flush();
        while (true) {
            int what = in.read();
            if (what < 0) {
                return;
            }
            Path file = Path.of(in.readUTF());
            Path result = Path.of(in.readUTF());
            List<Path> folders = new ArrayList<>();
            folders.add(file.getParent());
            for (int left = in.readInt(); left > 0; left--) {
                folders.add(Path.of(in.readUTF()));
            }
            String problem = null;
            try {
                switch (what) {
                    case EXR -> ExrDump.write(file, result);
                    case EXR_LIGHT -> ExrDump.writeLight(file, result);
                    case KTX -> KtxDump.write(file, result);
                    default -> SceneDump.write(file, FileGate.to(folders), result);
                }
            } catch (SceneDump.Refusal | IOException e) {
                problem = String.valueOf(e.getMessage());
            } catch (RuntimeException e) {
                // Whatever a file contrives must not end the worker, which can read the next one.
                problem = "the file holds something that is not understood: " + e;
            } catch (OutOfMemoryError e) {
                problem = "the file needs more memory than it may have";
            }
            if (problem == null) {
                out.writeByte(DONE);
            } else {
                out.writeByte(REFUSED);
                out.writeUTF(problem.length() > 4000 ? problem.substring(0, 4000) : problem);
            }
            out.flush();
        }
    }
}
