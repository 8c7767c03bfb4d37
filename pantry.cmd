@echo off
rem Finds a JDK 25, builds what is not built, and runs Pantry on Windows. See README.md.
rem Written without a Windows machine at hand: it does what the script "pantry" does, as far as that goes.
setlocal enabledelayedexpansion
set "ROOT=%~dp0"
set "RUN=%ROOT%desktop\target\run"

set "JDK="
for %%D in ("%PANTRY_JAVA_HOME%" "%JAVA_HOME%") do if not defined JDK call :try %%D
for /d %%D in ("%ProgramFiles%\Eclipse Adoptium\jdk-*" "%ProgramFiles%\Java\jdk-*" "%ProgramFiles%\Microsoft\jdk-*") do if not defined JDK call :try "%%D"
if not defined JDK (
  echo pantry: a JDK 25 or newer is needed and none was found. Install one and set JAVA_HOME to it. 1>&2
  exit /b 1
)
set "JAVA_HOME=%JDK%"

if "%~1"=="test" (
  where npm >nul 2>nul && if not exist "%ROOT%oracle\node_modules\.installed" (
    pushd "%ROOT%oracle" && call npm ci --silent && echo.> node_modules\.installed
    popd
  )
  pushd "%ROOT%"
  call mvn -B -ntp verify
  set "STATUS=!ERRORLEVEL!"
  popd
  exit /b !STATUS!
)

if not exist "%RUN%\built" (
  where mvn >nul 2>nul || (
    echo pantry: Apache Maven 3.8 or newer is needed to build. Install it. 1>&2
    exit /b 1
  )
  echo pantry: building ^(once^) 1>&2
  pushd "%ROOT%"
  call mvn -B -ntp -q package -Dmaven.test.skip=true -pl core,cli,demo,desktop 1>&2 || (
    popd
    exit /b 1
  )
  popd
  echo.> "%RUN%\built"
)

set "CLASSPATH=%ROOT%desktop\target\pantry-desktop-0.1.0.jar;%RUN%\lib\*"
set "FLAGS=-Xmx4g --sun-misc-unsafe-memory-access=allow --enable-native-access=ALL-UNNAMED"
if "%~1"=="demo" set "FLAGS=%FLAGS%,javafx.graphics --module-path "%RUN%\toolkit" --add-modules javafx.controls"
if "%~1"=="open" set "FLAGS=%FLAGS%,javafx.graphics --module-path "%RUN%\toolkit" --add-modules javafx.controls"
"%JDK%\bin\java" %FLAGS% pantry.cli.Main %*
exit /b %ERRORLEVEL%

:try
if not exist "%~1\bin\javac.exe" exit /b
for /f "tokens=2 delims=. " %%V in ('"%~1\bin\javac.exe" -version 2^>^&1') do if %%V GEQ 25 set "JDK=%~1"
exit /b
